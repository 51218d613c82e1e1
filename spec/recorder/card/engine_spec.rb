# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::Engine do
  let(:streams) do
    [Loomshuttle::Formats::Sdp::Stream.new(host: "h", port: 1, lanes: 2, first: 1, rate: 48_000, payload_type: 97),
     Loomshuttle::Formats::Sdp::Stream.new(host: "h", port: 3, lanes: 1, first: 3, rate: 48_000, payload_type: 97)]
  end
  let(:batches) { [] }
  let(:engine) { described_class.new(streams, now: -> { @now.to_f }) { |batch| batches << batch } }

  # Each sample tells its own time and lane, so that any slip shows.
  def packet(stream, number, frames: 48, source: 9, base: 0)
    times = Numo::Int32.new(frames).seq + (number * frames)
    block = Numo::Int32.zeros(frames, streams[stream].lanes)
    streams[stream].lanes.times { |lane| block[true, lane] = (times * 8) + streams[stream].first + lane }
    Loomshuttle::Formats::Rtp.pack(sequence: number, timestamp: base + (number * frames), source: source + stream, payload: Loomshuttle::Audio::Pcm24.to_network(block))
  end

  def feed(numbers, streams_to_feed: [0, 1], **options) = numbers.each { |n| streams_to_feed.each { |stream| engine.receive(stream, packet(stream, n, **options)) } }

  def samples(stream = 0) = Numo::Int32.vstack(batches.map { |batch| Loomshuttle::Audio::Pcm24.from_network(batch.streams[stream][2], streams[stream].lanes) })

  def times(stream = 0) = (samples(stream)[true, 0] / 8).to_a

  it "hands on 50 ms batches with every sample in its place" do
    feed(0...100)
    expect(batches.map(&:position)).to eq([0, 2400])
    expect(times(0)).to eq((0...4800).to_a)
    expect(samples(1)[true, 0].to_a).to eq((0...4800).map { |n| (n * 8) + 3 })
  end

  it "puts swapped packets right and drops repeated ones" do
    order = (0...100).to_a
    order[10], order[13] = order[13], order[10]
    feed(order.flat_map { |n| n == 20 ? [n, n, n] : [n] })
    expect(times).to eq((0...4800).to_a)
    expect(engine.counts).to include(reordered: 6, repeated: 4, lost_frames: 0)
  end

  it "fills what is lost with silence in its very place, and says where" do
    feed((0...150).to_a - [30, 31, 70])
    expect(batches.flat_map(&:gaps)).to eq([[0, 2, 30 * 48, 96], [2, 1, 30 * 48, 96], [0, 2, 70 * 48, 48], [2, 1, 70 * 48, 48]])
    expected = (0...4800).map { |n| (1440...1536).cover?(n) || (3360...3408).cover?(n) ? 0 : n }
    expect(times.first(4800)).to eq(expected)
    expect(engine.counts[:lost_frames]).to eq(288)
  end

  it "waits a little for a late packet, and counts one that comes too late" do
    feed((0...60).to_a - [20])
    expect(batches).to be_empty
    feed([20])
    feed((60...200).to_a - [100])
    feed([100])
    expect(engine.counts).to include(late: 2)
    expect(times.first(2400)).to eq((0...2400).to_a)
  end

  it "goes on with the other stream when one falls silent" do
    feed(0...50)
    feed(50...150, streams_to_feed: [0])
    expect(times(0).last(2400)).to eq((2400...4800).to_a)
    expect(samples(1)[2400..4799, 0].to_a.uniq).to eq([0])
  end

  it "counts on where sequence and timestamp wrap" do
    base = (2**32) - (48 * 20)
    feed(0...100, base: base)
    expect(times).to eq((0...4800).to_a)
  end

  it "takes packets of any whole length" do
    feed(0...40, frames: 120)
    expect(times).to eq((0...4800).to_a)
  end

  it "closes a batch and goes on when the desk starts again" do
    feed(0...120, base: 50_000_000)
    @now = 2.0
    feed(0...120, source: 77)
    expect(engine.timeline.restarts).to eq(1)
    expect(batches.map(&:position)).to eq((0...batches.size).map { |n| n * 2400 })
    expect(times.last(2400).first).to be <= 2400
  end

  it "ignores what is not a packet of the stream" do
    engine.receive(0, "noise")
    engine.receive(0, Loomshuttle::Formats::Rtp.pack(sequence: 0, timestamp: 0, source: 1, payload: "12345".b))
    expect(engine.counts[:packets]).to eq(0)
  end

  it "loses nothing to any disorder inside the window, seeded" do
    random = Random.new(5)
    order = (0...1000).each_slice(15).flat_map { |slice| [slice.first, *slice.drop(1).shuffle(random: random)] }
    feed(order)
    expect(engine.counts[:lost_frames]).to eq(0)
    expect(times).to eq((0...times.size).to_a)
  end
end
