# frozen_string_literal: true

# Packets that follow on each other are taken as one run: what comes out is what single packets give.
RSpec.describe "Runs of packets" do
  let(:streams) { [1, 9].map { |first| Loomshuttle::Formats::Sdp::Stream.new(host: "virtual", port: 1, lanes: 8, first: first, rate: 48_000, payload_type: 97) } }

  # @return [Array(Engine, Array<Batch>)] with a clock that goes on a millisecond with each packet of the first stream
  def engine
    batches, clock = [], [0.0]
    [Loomshuttle::Recorder::Engine.new(streams, now: -> { clock.first }) { |batch| batches << batch }, batches, clock]
  end

  # Datagrams of both streams in turns of up to `most`, as the card reads them.
  def turns(random, milliseconds, most)
    lists = [0, 1].map { |stream| sent(random, stream, milliseconds) }
    Enumerator.new do |out|
      until lists.all?(&:empty?)
        count = random.rand(1..most)
        lists.each_with_index { |list, stream| out << [stream, list.shift(count)] }
      end
    end.to_a
  end

  # Some lost, doubled or late, a jump of the sender's time in the middle, a stranger now and then.
  def sent(random, stream, milliseconds)
    jump = milliseconds > 600 ? 96_000 : 0
    list = Array.new(milliseconds) do |at|
      Loomshuttle::Formats::Rtp.pack(sequence: 65_000 + at, timestamp: ((1 << 32) - 9600) + (at * 48) + (at > milliseconds / 2 ? jump : 0), source: 40 + stream,
                                     payload: Random.new((at * 2) + stream).bytes(1152))
    end
    list.flat_map { |bytes| random.rand(50).then { |dice| { 0 => [], 1 => [bytes, bytes], 2 => [bytes, random.bytes(1164)] }.fetch(dice, [bytes]) } }
      .tap { |all| (all.size / 30).times { (at = random.rand(all.size - 3)) && (all[at], all[at + 2] = all[at + 2], all[at]) } }
  end

  def told(engine, batches) = [batches.map { |batch| [batch.position, batch.frames, batch.streams, batch.gaps, batch.breaks] }, engine.counts, engine.timeline.restarts]

  def run_through(list, together)
    engine, batches, clock = self.engine
    list.each do |stream, datagrams|
      arrived = together ? Loomshuttle::Formats::RtpRuns.of(datagrams, 24) : datagrams
      arrived.each { |one| engine.receive(stream, one) }
      clock[0] += datagrams.size / 1000.0 if stream.zero?
      engine.look
    end
    told(engine, batches)
  end

  [1, 2, 3].each do |seed|
    it "gives the same batches, gaps and counts as its packets one by one, #{seed}" do
      list = turns(Random.new(seed), 900, 12)
      single, joined = [false, true].map { |together| run_through(list, together) }
      expect(joined.last(2)).to eq(single.last(2))
      expect(joined.first.map { |one| one.values_at(0, 1, 3, 4) }).to eq(single.first.map { |one| one.values_at(0, 1, 3, 4) })
      expect(joined == single).to be(true)
      expect(single[1].values_at(:repeated, :reordered, :lost_frames)).to all(be_positive)
    end
  end

  it "takes a run that is cut by a batch into both, and counts each of its packets" do
    engine, batches = self.engine
    [0, 1].each do |stream|
      packets = Array.new(60) { |at| Loomshuttle::Formats::Rtp.pack(sequence: at, timestamp: at * 48, source: 40 + stream, payload: Random.new(at).bytes(1152)) }
      Loomshuttle::Formats::RtpRuns.of(packets.first(3), 24).each { |one| engine.receive(stream, one) }
      packets.drop(3).each_slice(16) { |some| Loomshuttle::Formats::RtpRuns.of(some, 24).each { |one| engine.receive(stream, one) } }
    end
    expect(batches.map(&:frames)).to eq([2400])
    expect(batches.first.streams.last.last).to eq(Array.new(50) { |at| Random.new(at).bytes(1152) }.join)
    expect(engine.counts).to include(packets: 120, lost_frames: 0)
  end
end
