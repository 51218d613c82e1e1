# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::CardDescription, :folder do
  # Ports are free ones, and the same each time, as those of a desk are.
  def describe(lanes, session: 1)
    @ports ||= { "sends" => Tools.free_udp_ports, "returns" => Tools.free_udp_ports }
    @ports.each do |way, port|
      stream = Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: port, lanes: lanes, first: 1, rate: 48_000, payload_type: 97)
      File.write(File.join(@folder, "card-#{way}.sdp"), Loomshuttle::Formats::Sdp.write(way, [stream], session: session))
    end
  end

  let(:card) { described_class.new(@folder) }

  before { describe(8) }

  it "reads what arrives and what goes back" do
    expect([card.sends, card.returns].map { |streams| streams.sum(&:lanes) }).to eq([8, 8])
  end

  it "is the same after the desk only started again" do
    card
    describe(8, session: 2)
    expect(card).not_to be_changed
  end

  it "has changed when the desk describes another card" do
    card
    describe(6)
    expect(card).to be_changed
  end

  it "waits while a description is being written, or is gone" do
    card
    File.write(File.join(@folder, "card-sends.sdp"), "v=0\r\nm=audio 5004 RTP/AVP 97\r\n")
    expect(card).not_to be_changed
    FileUtils.rm(File.join(@folder, "card-sends.sdp"))
    expect(card).not_to be_changed
  end

  it "cannot start without one" do
    FileUtils.rm(File.join(@folder, "card-returns.sdp"))
    expect { card }.to raise_error(SystemCallError)
  end

  it "makes a running recorder end, to be started again on the other card" do
    recorder = RunningRecorder.new(@folder)
    recorder.start
    pid = recorder.pid
    expect(recorder.call("status")).to include("capture" => nil)
    describe(4)
    expect(Tools.wait_until(60, "the recorder to end") { Process.wait(pid, Process::WNOHANG) }).to eq(pid)
    recorder.start
    expect(recorder.pid).not_to eq(pid)
  ensure
    recorder&.stop
  end
end
