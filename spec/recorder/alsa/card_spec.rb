# frozen_string_literal: true

# ALSA's file plugin over its null device is the sound card: it gives the samples of a file, and keeps what is played.
RSpec.describe Loomshuttle::Recorder::Alsa::Card, :folder do
  let(:frames) { 48_000 }
  let(:lanes) { 12 }
  let(:samples) { Numo::Int32.cast(Numo::Int32.from_binary(Random.new(7).bytes(frames * lanes * 4)) >> 8).reshape(frames, lanes) }
  let(:device) { Loomshuttle::Runtime::SoundDevices::Device.new(name: "twelve", words: "Fern 12", inputs: lanes, outputs: lanes, rates: [48_000, 48_000], format: format) }
  let(:format) { "S24_3LE" }
  let(:card) { described_class.new(device, rate: 48_000, sends: streams, returns: streams, now: Loomshuttle::Runtime::Clock.method(:now)) }

  include_context "with an ALSA card"

  before { File.binwrite(infile, raw) }
  after { card.close }

  def raw = format == "S32_LE" ? (samples * 256).to_binary : Loomshuttle::Audio::Pcm24.to_wav(samples)

  def streams
    [[1, 8], [9, 4]].map { |first, width| Loomshuttle::Formats::Sdp::Stream.new(host: "", port: 0, lanes: width, first: first, rate: 48_000, payload_type: 97) }
  end

  # What the engine makes of it, as batches.
  def heard(wanted)
    batches = []
    engine = Loomshuttle::Recorder::Engine.new(streams) { |batch| batches << batch }
    Tools.wait_until(60, "the device") do
      card.receive(0.1) { |stream, bytes| engine.receive(stream, bytes) }
      batches.sum(&:frames) >= wanted
    end
    batches
  end

  def block(batches) = Numo::Int32.vstack(batches.map { |batch| Numo::Int32.hstack(batch.blocks) })

  %w[S24_3LE S32_LE].each do |kind|
    context "with #{kind}" do
      let(:format) { kind }

      it "brings in what the device gives, sample for sample" do
        batches = heard(24_000)
        expect(batches.flat_map(&:gaps)).to eq([])
        expect(block(batches)[0...24_000, true]).to eq(samples[0...24_000, true])
        expect(card.status).to include("state" => "running", "overruns" => 0, "device" => "twelve")
      end
    end
  end

  it "plays what it is told, on all outputs together" do
    sent = samples[0...480, true]
    10.times do |nth|
      streams.each_with_index do |stream, index|
        part = sent[(nth * 48)...((nth + 1) * 48), (stream.first - 1)...(stream.first - 1 + stream.lanes)].dup
        card.send(index, Loomshuttle::Formats::Rtp.pack(sequence: nth, timestamp: nth * 48, source: 1, payload: Loomshuttle::Audio::Pcm24.to_network(part)))
      end
    end
    card.close
    out = File.binread(outfile, 480 * lanes * 3)
    expect(Loomshuttle::Audio::Pcm24.from_wav(out, lanes)).to eq(sent)
  end

  it "notes lost samples as a gap of their length, and what follows stands where it belongs" do
    engine_batches = []
    engine = Loomshuttle::Recorder::Engine.new(streams) { |batch| engine_batches << batch }
    hear = lambda do |wanted|
      Tools.wait_until(60, "the device") do
        card.receive(0.1) { |stream, bytes| engine.receive(stream, bytes) }
        engine_batches.sum(&:frames) >= wanted
      end
    end
    hear.call(4800)
    card.__send__(:overrun, 10.0)
    hear.call(24_000)
    gap = engine_batches.flat_map(&:gaps).find { |_, width, _, _| width == 8 }
    expect([card.overruns, gap[3]]).to eq([1, 480])
    sound = block(engine_batches)
    expect(sound[(gap[2] + 480)...24_000, true]).to eq(samples[gap[2]...(24_000 - 480), true])
  end

  it "says that a device is gone, and comes back on its own when it is there again" do
    heard(2400)
    Process.kill(:KILL, card.instance_variable_get(:@capture).pid)
    Tools.wait_until(60, "the end") do
      card.receive(0.05) { nil }
      card.state == "gone"
    end
    expect(heard(2400).sum(&:frames)).to be >= 2400
    expect(card.state).to eq("running")
  end

  it "takes in what comes in pieces of any size, lane by lane" do
    read, write = IO.pipe
    read.binmode
    card.instance_variable_set(:@capture, read)
    allow(card).to receive_messages(open_capture: nil, behind?: true, close_capture: nil)
    random, sent, packets = Random.new(3), raw, []
    while sent.bytesize > 1_700_000 - 200_000
      part = sent.slice!(0, random.rand(1..5000))
      write.write(part)
      card.receive(0.01) { |stream, bytes| packets << Loomshuttle::Formats::Rtp.unpack(bytes).payload if stream.zero? }
    end
    heard = Loomshuttle::Audio::Pcm24.from_network(packets.join, 8)
    expect(heard.shape[0]).to be > 2000
    expect(heard).to eq(samples[0...heard.shape[0], 0...8])
    write.close
  end

  it "counts what is left of a lost packet with what is lost next" do
    batches = []
    engine = Loomshuttle::Recorder::Engine.new(streams) { |batch| batches << batch }
    hear = ->(wanted) { Tools.wait_until(60, "the device") { card.receive(0.1) { |stream, bytes| engine.receive(stream, bytes) } && batches.sum(&:frames) >= wanted } }
    hear.call(4800)
    2.times { card.__send__(:overrun, 10.5) } # 504 frames, of which 24 do not fill a packet
    hear.call(24_000)
    expect(batches.flat_map(&:gaps).select { |_, width, _, _| width == 8 }.sum { |gap| gap[3] }).to eq(1008)
  end
end
