# frozen_string_literal: true

# The desk's thread, with sockets; its figures are the unit's.
RSpec.describe Loomshuttle::StandIns::Desk::Server, :folder do
  it "asks for the first place at the processor before its first step, and steps" do
    told = []
    allow(Loomshuttle::Runtime::Priority).to receive(:first) { told << :first }
    allow(Loomshuttle::Runtime::Clock).to(receive(:now).and_wrap_original { |now| now.call.tap { told << :clock } })
    osc, sends, returns = [1, 5, 5].map { |count| Tools.free_udp_ports(count) }
    desk = described_class.new(profiles: VirtualRig::PROFILES, first_rig: File.join(Loomshuttle::ROOT, "demo/rig.json"), osc_port: osc, sends_port: sends, returns_port: returns,
                               folder: @folder)
    told.clear
    thread = Thread.new { desk.run }
    Tools.wait_until(60, "a step") { told.size > 3 }
    desk.stop
    thread.join
    expect(told.first).to eq(:first)
  end
end
