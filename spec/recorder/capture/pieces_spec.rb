# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::Pieces do
  let(:samples) { Numo::Int32.cast(Numo::Int32.from_binary(Random.new(3).bytes(2400 * 16 * 4)) >> 8).reshape(2400, 16) }
  let(:batch) do
    streams = [0, 8].map { |first| [first, 8, Loomshuttle::Audio::Pcm24.to_network(samples[true, first...(first + 8)].dup)] }
    Loomshuttle::Recorder::Batch.new(0, 2400, streams, [])
  end

  def track(*inputs) = Loomshuttle::Recorder::Track.new(number: inputs.first, name: "T", inputs: inputs, outputs: [], armed: true)
  def columns(*inputs) = samples[true, inputs.map { |lane| lane - 1 }]

  it "cuts mono and stereo tracks out of all streams, without changing a sample" do
    tracks = [track(1), track(8), track(9), track(16), track(3, 4), track(12, 11), track(8, 9), track(1)]
    pieces = described_class.new(24).of(batch, tracks)
    expect(pieces.keys).to match_array(tracks.uniq)
    pieces.each { |one, bytes| expect(Loomshuttle::Audio::Pcm24.from_wav(bytes, one.inputs.size)).to eq(columns(*one.inputs)), one.inputs.inspect }
  end

  it "gives floats of the same samples" do
    described_class.new(32).of(batch, [track(5), track(8, 9)]).each do |one, bytes|
      expect(Numo::SFloat.from_binary(bytes).reshape(2400, one.inputs.size) * 8_388_608).to eq(columns(*one.inputs))
    end
  end

  it "decodes nothing when no track wants anything" do
    expect(described_class.new(24).of(Loomshuttle::Recorder::Batch.new(0, 2400, [[0, 8, nil]], []), [])).to eq({})
  end
end
