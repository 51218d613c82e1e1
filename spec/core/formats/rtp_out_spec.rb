# frozen_string_literal: true

RSpec.describe Loomshuttle::Formats::RtpOut do
  let(:streams) { [[8, 1], [8, 9], [5, 17]].map { |lanes, first| Loomshuttle::Formats::Sdp::Stream.new(host: "h", port: 1, lanes: lanes, first: first, rate: 48_000, payload_type: 97) } }
  let(:block) { Numo::Int32.cast(Numo::Int32.from_binary(Random.new(4).bytes(480 * 21 * 4)) >> 8).then { |samples| Numo::Int32.from_binary(samples.to_binary, [480, 21]) } }

  def sent(block, **with)
    list = []
    out = described_class.new(streams, packet: 48, session: 7, **with) { |index, bytes, size| list << [index, bytes, size] }
    2.times { |nth| out.write(block, 1000 + (nth * 480)) }
    list
  end

  it "hands over the same packets together as one by one" do
    alone = sent(block).group_by(&:first).transform_values { |list| list.map { |_, bytes| bytes } }
    together = sent(block, together: true)
    expect(together.map(&:first)).to eq([0, 1, 2, 0, 1, 2])
    expect(together.to_h { |_, bytes, size| [bytes.bytesize / size, bytes.bytesize % size] }).to eq({ 10 => 0 })
    apart = together.group_by(&:first).transform_values { |list| list.flat_map { |_, bytes, size| Array.new(bytes.bytesize / size) { |nth| bytes.byteslice(nth * size, size) } } }
    expect(apart).to eq(alone)
  end

  it "counts on without a gap, and gives each packet its samples and its time" do
    packets = sent(block).select { |index, _| index == 2 }.map { |_, bytes| Loomshuttle::Formats::Rtp.unpack(bytes) }
    expect(packets.map(&:sequence)).to eq((0...20).to_a)
    expect(packets.map(&:timestamp)).to eq((0...20).map { |nth| 1000 + (nth * 48) })
    expect(packets.map(&:payload).first(10).join).to eq(Loomshuttle::Audio::Pcm24.to_network(block[true, 16..20].dup))
  end

  it "sends a frozen block again as it was, and another one as it is" do
    frozen, other = block.dup.freeze, (block / 2).freeze
    expect(sent(frozen)).to eq(sent(block))
    list = []
    out = described_class.new(streams, packet: 48, session: 7, sparing: true) { |index, bytes| list << [index, Loomshuttle::Formats::Rtp.unpack(bytes).payload] }
    [frozen, frozen, other, frozen].each_with_index { |one, nth| out.write(one, nth * 480) }
    expect(list.each_slice(30).map { |blocks| blocks == list.first(30) }).to eq([true, true, false, true])
  end

  it "sends a block that was changed in place as it is now" do
    list = []
    out = described_class.new(streams, packet: 480, session: 7) { |index, bytes| list << [index, Loomshuttle::Formats::Rtp.unpack(bytes).payload] }
    changed = block.dup
    out.write(changed, 0)
    changed[true, 0] = 0
    out.write(changed, 480)
    expect(list[0][1]).not_to eq(list[3][1])
    expect(list.values_at(1, 2)).to eq(list.values_at(4, 5))
  end

  it "finds the lanes of streams wherever they begin" do
    lanes = [9, 1].map { |first| Loomshuttle::Formats::Sdp::Stream.new(host: "h", port: 1, lanes: 8, first: first, rate: 48_000, payload_type: 97) }
    payloads = []
    described_class.new(lanes, packet: 480, session: 7) { |_, bytes| payloads << Loomshuttle::Formats::Rtp.unpack(bytes).payload }.write(block, 0)
    expect(payloads).to eq([8..15, 0..7].map { |columns| Loomshuttle::Audio::Pcm24.to_network(block[true, columns].dup) })
  end

  it "sends silence, too, once a frozen block has to be replaced by it" do
    quiet, list = Numo::Int32.zeros(480, 21).freeze, []
    out = described_class.new(streams, packet: 48, session: 7, sparing: true) { |index, _| list << index }
    out.write(quiet, 0)
    expect(list).to be_empty
    out.write(quiet, 0, sparing: false)
    expect(list.tally).to eq({ 0 => 10, 1 => 10, 2 => 10 })
  end

  it "sends nothing of a stream that is silent, where it is sparing" do
    quiet = block.dup.tap { |samples| samples[true, 8..15] = 0 }
    expect(sent(quiet, sparing: true, together: true).map(&:first)).to eq([0, 2, 0, 2])
  end
end
