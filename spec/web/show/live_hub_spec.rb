# frozen_string_literal: true

require "socket"

RSpec.describe Loomshuttle::Web::LiveHub do
  let(:hub) { described_class.new.tap(&:start) }

  after { hub.stop }

  def viewer
    ours, theirs = UNIXSocket.pair
    hub.add(theirs)
    ours
  end

  def heard(socket) = Tools.wait_until(60, "a message") { socket.wait_readable(0.2) && socket.readpartial(65_536) }

  it "tells all viewers, and a new one what was kept" do
    first = viewer
    hub.tell("state", { a: 1 }, keep: true)
    hub.tell("lanes", { b: 2 })
    text = +""
    text << heard(first) until text.include?("lanes")
    expect(text).to eq("event: state\ndata: {\"a\":1}\n\nevent: lanes\ndata: {\"b\":2}\n\n")
    expect(heard(viewer)).to eq("event: state\ndata: {\"a\":1}\n\n")
  end

  it "writes frequent messages together, and urgent ones immediately, in order" do
    one = viewer
    one_write = lambda do
      Tools.wait_until(60, "a message") { one.wait_readable(0.2) }
      one.readpartial(65_536).scan(/event: (\w+)/).flatten
    end
    stub_const("#{described_class}::COMPANY", 0.5)
    hub.tell_often("desk", 1)
    hub.tell_often("lanes", 2)
    expect(one_write.call).to eq(%w[desk lanes])
    stub_const("#{described_class}::COMPANY", 600)
    hub.tell_often("desk", 3)
    hub.tell_often("song", 4)
    Tools.wait_until(20, "both to wait") { hub.instance_variable_get(:@waiting).include?("song") }
    expect(one.wait_readable(0)).to be_nil
    hub.tell("show", 5)
    expect(one_write.call).to eq(%w[desk song show])
  end

  it "forgets viewers that have gone, and drops one that does not read, without making the others wait" do
    slow, gone, good = viewer, viewer, viewer
    gone.close
    Thread.new { loop { good.readpartial(65_536) } rescue nil } # rubocop:disable Style/RescueModifier
    Tools.wait_until(60, "the drop") { Array.new(20) { hub.tell("lanes", "x" * 2000) } && hub.size == 1 }
    expect { loop { slow.readpartial(1 << 20) } }.to raise_error(EOFError) # what was sent before is still there
    hub.tell("state", { last: true })
    expect(good).not_to be_closed
    expect(hub.size).to eq(1)
  end
end
