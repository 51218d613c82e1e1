# frozen_string_literal: true

RSpec.describe "Playing a take", :folder do
  let(:frames) { 9600 }
  # Track n at time t holds t * 10 + n, so that every slip shows.
  let(:manifest) do
    { "frames" => frames, "tracks" => [{ "number" => 1, "file" => "one.wav" }, { "number" => 2, "file" => "two.wav" }] }
  end
  let(:streams) do
    [Loomshuttle::Formats::Sdp::Stream.new(host: "h", port: 1, lanes: 2, first: 1, rate: 48_000, payload_type: 97)]
  end
  let(:timeline) do
    Loomshuttle::Recorder::Timeline.new.tap { |line| line.start(1_000_000, 0) }
  end
  let(:sent) { [] }

  before { %w[one two].each_with_index { |name, at| write(name, at + 1) } }

  def write(name, number)
    bext = Loomshuttle::Formats::Bext.new(description: "", originator: "", reference: "", date: "2026-01-01", time: "00:00:00", time_reference: 0, history: "")
    writer = Loomshuttle::Formats::Wav::Writer.new(File.join(@folder, "#{name}.wav"), bext: bext)
    writer.write(Loomshuttle::Audio::Pcm24.to_wav(((Numo::Int32.new(frames).seq * 10) + number).reshape(frames, 1)))
    writer.close
  end

  def reader(outputs: { 1 => [1], 2 => [2] }, **range)
    Loomshuttle::Recorder::TakeReader.new(@folder, manifest, outputs: outputs, lanes: 2, **range)
  end

  def player(reader, buffer: 1024)
    Loomshuttle::Recorder::Player.new(reader, streams: streams, buffer: buffer, source: 5) { |_, bytes| sent << Loomshuttle::Formats::Rtp.unpack(bytes) }
  end

  describe "on a card of several streams" do
    let(:wide) { [1, 9].map { |first| Loomshuttle::Formats::Sdp::Stream.new(host: "127.0.0.1", port: 9, lanes: 8, first: first, rate: 48_000, payload_type: 97) } }

    # What plays to another stream at the same time, such as songs, is not silenced.
    it "sends only those that something plays to, and all where the card takes all or none" do
      sent_to = lambda do |whole|
        streams = []
        taken = Loomshuttle::Recorder::TakeReader.new(@folder, manifest, outputs: { 1 => [10] }, lanes: 16)
        player = Loomshuttle::Recorder::Player.new(taken, streams: wide, buffer: 1024, source: 5, whole: whole) { |index, _| streams << index }
        player.fill
        [0, 480].each { |newest| player.tick(newest, timeline) }
        streams.uniq
      end
      expect([sent_to.call(false), sent_to.call(true)]).to eq([[1], [0, 1]])
    end
  end

  describe Loomshuttle::Recorder::TakeReader do
    it "puts each track on the lane that it has now" do
      expect(reader(outputs: { 1 => [2], 2 => [1] }).read(3).to_a).to eq([[2, 1], [12, 11], [22, 21]])
    end

    it "mixes all tracks to two lanes more where that is wanted: mono ones to both sides, 3 dB lower" do
      block = reader(outputs: { 1 => [2] }, own_mix: [1, 2]).read(101)
      # sample 100 of the tracks is 1001 and 1002; 0.70711 of their sum is 1416.3, rounded once
      expect(block[100, true].to_a).to eq([1416, 1416 + 1001])
      expect(reader(outputs: {}, own_mix: [1, 2]).read(1).to_a).to eq([[2, 2]])
    end

    it "leaves tracks without an output out, and sums those that share one" do
      expect(reader(outputs: { 2 => [1] }).read(2).to_a).to eq([[2, 0], [12, 0]])
      expect(reader(outputs: { 1 => [1], 2 => [1] }).read(2).to_a).to eq([[3, 0], [23, 0]])
    end

    it "limits a sum once, at the end, and counts what that took: three loud ones of which one is turned over stay what they are" do
      values = [8_000_000, 8_000_000, -8_000_000, 5, 5, 5]
      allow_any_instance_of(Loomshuttle::Formats::Wav::Reader).to receive(:read) { Numo::Int32.new(2, 1).fill(values.shift) } # rubocop:disable RSpec/AnyInstance
      three = (1..3).map { |number| { "number" => number, "file" => manifest["tracks"][0]["file"] } }
      taken = described_class.new(@folder, manifest.merge("tracks" => three), outputs: { 1 => [1], 2 => [1], 3 => [1] }, lanes: 2)
      expect([taken.read(2)[true, 0].to_a, taken.limited]).to eq([[8_000_000] * 2, 0])
      values.replace([8_000_000, 8_000_000, 0])
      expect([taken.read(2)[true, 0].to_a, taken.limited]).to eq([[8_388_607] * 2, 2])
    end

    it "limits the own mix once, too" do
      values = [8_000_000, 8_000_000, -8_000_000]
      allow_any_instance_of(Loomshuttle::Formats::Wav::Reader).to receive(:read) { Numo::Int32.new(2, 1).fill(values.shift) } # rubocop:disable RSpec/AnyInstance
      three = (1..3).map { |number| { "number" => number, "file" => manifest["tracks"][0]["file"] } }
      taken = described_class.new(@folder, manifest.merge("tracks" => three), outputs: {}, lanes: 2, own_mix: [1, 2])
      expect([taken.read(2).to_a, taken.limited]).to eq([[[5_656_854] * 2] * 2, 0]) # 8 000 000 / sqrt(2)
    end

    it "repeats a range without a seam" do
      times = reader(from: 100, to: 103, loop: true).read(8)[true, 0].to_a.map { |value| value / 10 }
      expect(times).to eq([100, 101, 102, 100, 101, 102, 100, 101])
    end

    it "is silent behind the end, and knows that it is done" do
      one = reader(from: 9598)
      expect(one.read(4)[true, 0].to_a).to eq([95_981, 95_991, 0, 0])
      expect(one).to be_done
    end

    it "says so when nothing of the take has an output" do
      expect { reader(outputs: {}) }.to raise_error(Loomshuttle::Invalid, /No track of this take has an output/)
    end
  end

  describe Loomshuttle::Recorder::Player do
    it "sends one packet for each millisecond that arrives, stamped one buffer later" do
      one = player(reader)
      one.fill
      one.tick(0, timeline)
      one.tick(480, timeline)
      expect(sent.map(&:timestamp)).to eq((0...10).map { |n| 1_000_000 + 1024 + (n * 48) })
      expect(sent.map(&:sequence)).to eq((0...10).to_a)
      samples = Loomshuttle::Audio::Pcm24.from_network(sent.map(&:payload).join, 2)
      expect(samples[true, 0].to_a).to eq((0...480).map { |t| (t * 10) + 1 })
    end

    it "tells where it is, also in a short loop" do
      one = player(reader(from: 4800, to: 5280, loop: true))
      one.fill
      one.tick(0, timeline)
      positions = (1..30).map do |n|
        one.tick(n * 48, timeline)
        one.position
      end
      expect(positions).to all(be_between(4800, 5279))
      expect(positions.uniq.size).to eq(10)
    end

    it "sends silence and counts when reading is behind, and goes on where it was" do
      one = player(reader)
      one.tick(0, timeline)
      one.tick(48, timeline)
      one.fill
      one.tick(96, timeline)
      expect(one.underruns).to eq(1)
      expect(sent.map { |packet| Loomshuttle::Audio::Pcm24.from_network(packet.payload, 2)[1, 0] }).to eq([0, 11])
    end

    it "can be closed while another thread reads ahead" do
      20.times do
        one = player(reader(loop: true))
        filling = Thread.new { one.fill }
        one.close
        expect { filling.value }.not_to raise_error
        expect(one.fill).to be(false)
      end
    end
  end
end

RSpec.describe Loomshuttle::Recorder::ControlServer, :folder do
  let(:path) { File.join(@folder, "socket") }
  let(:unit) { instance_double(Loomshuttle::Recorder::Unit, status: { "x" => "y" * 5000 }) }
  let(:server) { described_class.new(path, unit).tap(&:start) }

  before { server }
  after { server.close }

  def connect = Loomshuttle::Runtime::UnixSockets.connect(path)

  it "tells meters to those who asked, and answers others in between" do
    viewer = connect
    viewer.puts('{"jsonrpc":"2.0","id":1,"method":"meters","params":{"subscribe":true}}')
    expect(JSON.parse(viewer.gets)["result"]).to eq("subscribed" => true)
    server.tell("meters", { "peak" => [1] })
    expect(JSON.parse(viewer.gets)).to eq("jsonrpc" => "2.0", "method" => "meters", "params" => { "peak" => [1] })
    other = connect
    other.puts('{"jsonrpc":"2.0","id":2,"method":"status"}')
    expect(JSON.parse(other.gets)["id"]).to eq(2)
  end

  # As after the interface was paused.
  it "tells a slow one that he missed something, and goes on telling him" do
    slow = connect
    slow.puts('{"jsonrpc":"2.0","id":1,"method":"meters","params":{"subscribe":true}}')
    slow.gets
    3000.times { |n| server.tell("meters", { "peak" => [n] * 100 }) }
    lines = Enumerator.new { |heard| loop { heard << JSON.parse(slow.gets) } }
    # How often it comes to that depends on who gets to run; what is told and what is missed are all there was.
    heard = lines.take_while { |line| line.dig("params", "peak", 0) != 2999 }
    missed = heard.select { |line| line["method"] == "missed" }.sum { |line| line["params"]["count"] }
    expect(missed).to be > 1000
    expect(heard.count { |line| line["method"] == "meters" } + missed).to eq(2999)
    server.tell("state", { "capture" => nil })
    expect(lines.next["method"]).to eq("state")
  end

  it "answers whole, whatever the size" do
    allow(unit).to receive(:status).and_return({ "x" => "y" * 3_000_000 })
    asker = connect
    asker.puts('{"jsonrpc":"2.0","id":2,"method":"status"}')
    expect(JSON.parse(asker.gets)["result"]["x"].size).to eq(3_000_000)
  end

  it "never waits for one who does not read" do
    deaf = connect
    deaf.puts('{"jsonrpc":"2.0","id":1,"method":"meters","params":{"subscribe":true}}')
    deaf.gets
    asker = connect
    500.times { asker.puts('{"jsonrpc":"2.0","id":2,"method":"status"}') } # and reads none of the answers
    telling = Thread.new { 2000.times { server.tell("meters", { "peak" => [0] * 200 }) } }
    expect(telling.join(10)).to eq(telling)
    expect(File.stat(path).mode & 0o777).to eq(0o600)
  rescue Errno::EPIPE
    expect(telling&.join(10)).to eq(telling) # dropped already: that is the point
  end
end
