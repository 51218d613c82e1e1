# frozen_string_literal: true

RSpec.describe Loomshuttle::Player::WaysOut, :folder do
  let(:ports) { Tools.free_udp_ports(8) }
  let(:clock) { ports }
  let(:lanes) { ports + 2 }
  let(:card_clock) { ports + 6 }
  let(:card) { [ports + 8, ports + 10] }
  let(:heard) { [lanes, *card].to_h { |port| [port, UDPSocket.new.tap { |socket| socket.bind("127.0.0.1", port) }] } }
  let(:ways) do
    described_class.new(host: "127.0.0.1", rate: 48_000, outputs: 16, interface: [clock, lanes], card_clock: card_clock, description: File.join(@folder, "card-returns.sdp"))
  end

  before { heard }
  after { [ways, *heard.values].each(&:close) }

  def describe_card(*lanes)
    first = 1
    streams = lanes.zip(card).map do |count, port|
      Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: port, lanes: count, first: first, rate: 48_000, payload_type: 97).tap { first += count }
    end
    File.write(File.join(@folder, "card-returns.sdp"), Loomshuttle::Formats::Sdp.write("card", streams, session: 1))
  end

  def arrives(port) = heard.fetch(port).wait_readable(5) && heard.fetch(port).recv(100)

  it "leaves by the interface first, and by a stream of the card once it is told, with its clock" do
    describe_card(8, 8)
    ways.send(0, "to the interface")
    expect(arrives(lanes)).to eq("to the interface")
    expect([ways.use([9]), ways.use([9])]).to eq([true, false])
    expect(ways.streams.map { |stream| [stream.port, stream.first, stream.lanes] }).to eq([[card[1], 1, 8]])
    ways.send(0, "to the card")
    expect(arrives(card[1])).to eq("to the card")
    expect(ways.clock.addr[1]).to eq(card_clock)
    expect(ways.use([])).to be(true)
    expect(ways.clock.addr[1]).to eq(clock)
  end

  it "takes both streams in the order that it is told, a narrow one too, and sends nothing to one that is not there" do
    describe_card(8, 2)
    ways.use([9, 1])
    expect(ways.streams.map { |stream| [stream.port, stream.first, stream.lanes] }).to eq([[card[1], 1, 2], [card[0], 3, 8]])
    ways.use([17])
    expect(ways.streams).to eq([])
    expect { ways.send(0, "nowhere") }.not_to raise_error
  end

  it "follows a card that has moved, and keeps what it knew while the description is being written" do
    describe_card(8, 8)
    ways.use([1])
    File.write(File.join(@folder, "card-returns.sdp"), "m=video 1 RTP/AVP 3")
    expect(ways.use([1])).to be(false)
    card.reverse!
    describe_card(8, 8)
    expect(ways.use([1])).to be(true)
    expect(ways.streams.map(&:port)).to eq([card[0]])
  end

  describe "with a sound card of this computer" do
    include_context "with an ALSA card"

    it "plays to it before anything else, at its clock, and goes back" do
      device = Loomshuttle::Runtime::SoundDevices::Device.new(name: "twelve", words: "Twelve", inputs: 0, outputs: 2, rates: [8000, 192_000], format: "S32_LE")
      expect([ways.use([], device), ways.use([9], device)]).to eq([true, false])
      expect(ways.streams.map(&:lanes)).to eq([2])
      told = []
      Tools.wait_until(60, "its clock") do
        ways.hear(0.1) { |bytes| told << Loomshuttle::Formats::Rtp.unpack(bytes).timestamp }
        told.size > 2
      end
      expect(told.first(3)).to eq([480, 960, 1440])
      expect(ways.use([])).to be(true)
      expect([ways.sound, ways.clock.addr[1]]).to eq([nil, clock])
    end
  end

  it "sends nothing to another computer, nor to what is not a stream of a card" do
    stream = Loomshuttle::Formats::Sdp::Stream.new(host: "192.0.2.7", port: card[0], lanes: 8, first: 1, rate: 48_000, payload_type: 97)
    text = Loomshuttle::Formats::Sdp.write("card", [stream], session: 1)
    [text, text.sub("192.0.2.7", "127.0.0.1").sub("L24/48000/8", "L24/48000/64"), text.sub("192.0.2.7", "127.0.0.1").sub("L24/48000", "L24/44100")].each do |description|
      File.write(File.join(@folder, "card-returns.sdp"), description)
      ways.use([])
      ways.use([1])
      expect(ways.streams).to eq([])
    end
  end

  it "leads nowhere without a card, and lets go what comes by the clock that is not heard" do
    expect(ways.use([1])).to be(true)
    expect(ways.streams).to eq([])
    UDPSocket.new.tap { |socket| 50.times { socket.send("late", 0, "127.0.0.1", clock) } }.close
    ways.let_go
    ways.use([])
    expect(ways.clock.recv_nonblock(10, exception: false)).to eq(:wait_readable)
  end
end
