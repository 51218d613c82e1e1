# frozen_string_literal: true

# The line to the desk, against a desk in this process that can lose packets and restart.
RSpec.describe Loomshuttle::Web::Desk::Link do
  # The stand-in's control behind a real socket; `lose` drops that many requests, then that many answers.
  let(:desk) do
    Class.new do
      attr_accessor :lose_requests, :lose_answers
      attr_reader :settings, :port

      def initialize
        @lose_requests = @lose_answers = 0
        @socket = UDPSocket.new.tap { |socket| socket.bind("127.0.0.1", 0) }
        @port = @socket.addr[1]
        restart
        @thread = Thread.new { loop { receive } }
      end

      def restart
        @settings = Loomshuttle::StandIns::Desk::Settings.new(Loomshuttle::StandIns::Desk::Model.new(VirtualRig::PROFILE))
        session = rand(1 << 20)
        @control = Loomshuttle::StandIns::Desk::Control.new(@settings, facts: { "session" => -> { session } }, now: -> { 0 }) { |peer, bytes| answer(peer, bytes) }
      end

      def tell_meters(levels) = @control.tell_meters(levels.pack("s>*"), 1)

      def close
        @thread.kill
        @socket.close
      end

      private

      def receive
        bytes, from = @socket.recvfrom(65_536)
        return @lose_requests -= 1 if @lose_requests.positive?

        @control.receive(bytes, [from[3], from[1]])
      end

      def answer(peer, bytes)
        return @lose_answers -= 1 if @lose_answers.positive?

        @socket.send(bytes, 0, *peer)
      end
    end.new
  end
  let(:heard) { [] }
  let(:addresses) { ["strip/1/label", "strip/1/gain", "strip/2/hears"] }
  let(:link) { described_class.new(desk.port, addresses: addresses, on_change: -> {}, on_meters: ->(peaks, rms) { heard << [peaks, rms] }) }

  before do
    desk.settings.set("strip/1/label", "Tuba")
    link.start
    Tools.wait_until(5, "the desk") { link.up? }
  end

  after do
    link.stop
    desk.close
  end

  it "mirrors the desk's settings, and follows what others change" do
    expect(link.mirror).to eq("strip/1/label" => "Tuba", "strip/1/gain" => 0.0, "strip/2/hears" => "stage")
    other = UDPSocket.new.tap { |socket| socket.connect("127.0.0.1", desk.port) }
    other.send(Loomshuttle::Formats::Osc.pack("/set", 1, "strip/2/hears", "take"), 0)
    Tools.wait_until(5, "the change") { link.mirror["strip/2/hears"] == "take" }
  end

  it "sets and reads back" do
    link.set("strip/1/gain", 31)
    expect([desk.settings.get("strip/1/gain"), link.mirror["strip/1/gain"]]).to eq([31.0, 31.0])
  end

  it "sets all the same when requests or answers are lost" do
    desk.lose_requests = 2
    link.set("strip/1/gain", 20)
    desk.lose_answers = 2
    link.set("strip/1/gain", 21)
    expect(desk.settings.get("strip/1/gain")).to eq(21.0)
  end

  it "passes on why the desk refuses, and says when it does not answer" do
    expect { link.set("strip/1/gain", 99) }.to raise_error(described_class::Failed, %r{refuses strip/1/gain: a number from 0 to 60})
    desk.lose_requests = 1000
    expect { link.set("strip/1/gain", 20) }.to raise_error(described_class::Failed, /does not answer/)
  end

  it "hears meters as channels in order" do
    desk.tell_meters([-1200, -1500, -300, -900])
    Tools.wait_until(5, "meters") { heard.any? }
    expect(heard.first).to eq([[-12.0, -3.0], [-15.0, -9.0]])
  end

  it "reads everything anew from a desk that restarted" do
    desk.restart
    Tools.wait_until(10, "the new desk") { link.mirror["strip/1/label"] == "" }
    expect(link).to be_up
  end
end

RSpec.describe Loomshuttle::Web::Desk::Sync do
  let(:show) { straight(2) }
  let(:mirror) { Loomshuttle::Web::Desk::Words.plan(show) }
  let(:link) { instance_double(Loomshuttle::Web::Desk::Link, up?: true, mirror: mirror) }
  let(:sync) { described_class.new(link) }

  before { allow(link).to receive(:same?) { |one, other| one == other } }

  it "finds nothing where plan and desk are equal" do
    expect(sync.differences(show)).to eq([])
  end

  it "tells each difference in the plan's words, and reads the desk into the plan" do
    mirror.merge!("strip/1/take" => "", "card/send/2/from" => "main/l", "card/send/2/tap" => "post-fader")
    expect(sync.differences(show).map(&:to_h)).to contain_exactly(
      { path: "channel/1/take", plan: "card/return/1", desk: nil }, { path: "send/2/source", plan: "desk/ch/2", desk: "desk/main/l" },
      { path: "send/2/tap", plan: "preamp", desk: "post-fader" }
    )
    changed, = sync.read_edit(show).apply(show)
    expect([changed.channels[1].take, changed.sends[2].point]).to eq([nil, "desk/main/l@post-fader"])
  end

  it "sends on after a refusal, and says what could not be set" do
    set = []
    allow(link).to receive(:set) { |address, value| address.end_with?("label") ? raise(Loomshuttle::Web::Desk::Link::Failed, "No label.") : set << [address, value] }
    expect(sync.send_plan(show, ["channel/1/name", "channel/1/stage", "track/1/name"])).to eq(["No label."])
    expect(set).to eq([["strip/1/stage", "in/1"]])
  end

  it "keeps the plan when the desk is away" do
    allow(link).to receive(:up?).and_return(false)
    expect(sync.differences(show)).to be_nil
    expect(sync.send_plan(show, ["channel/1/name"])).to match([/can be sent later/])
    expect { sync.read_edit(show) }.to raise_error(Loomshuttle::Invalid, /does not answer/)
  end
end
