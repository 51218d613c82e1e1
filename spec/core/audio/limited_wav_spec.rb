# frozen_string_literal: true

# Held against the plain way: limit, then the bytes.
RSpec.describe Loomshuttle::Audio::LimitedWav do
  let(:pcm) { Loomshuttle::Audio::Pcm24 }

  def plain(samples) = pcm.to_wav(pcm.limit(samples))

  it "gives the same bytes, block by block of any length" do
    wav = described_class.new
    random = Random.new(7)
    [480, 480, 1, 4800, 480].each do |frames|
      samples = Numo::SFloat.cast(Array.new(frames) { (random.rand * 2) - 1 })
      expect(wav.bytes(samples)).to eq(plain(samples))
    end
  end

  it "rounds halves to the even number, as the plain way does, and knows the extremes" do
    steps = [-8_388_608, -8_388_607.5, -4_194_304.5, -2.5, -1.5, -0.5, 0, 0.5, 1.5, 2.5, 4_194_303.5, 8_388_606.5, 8_388_607]
    samples = Numo::SFloat.cast(steps) / pcm::FULL_SCALE
    expect(described_class.new.bytes(samples)).to eq(plain(samples))
    expect(pcm.from_wav(described_class.new.bytes(samples))[true, 0].to_a).to eq([-8_388_608, -8_388_608, -4_194_304, -2, -2, 0, 0, 0, 2, 2, 4_194_304, 8_388_606, 8_388_607])
  end

  it "limits what is beyond full scale, by however little, and tells where" do
    [8_388_607.5, 8_388_608, 20_000_000, -8_388_609, -20_000_000].each do |step|
      samples = Numo::SFloat.cast([0, step, 1]) / pcm::FULL_SCALE
      told = nil
      bytes = described_class.new.bytes(samples) { |where| told = where.to_a }
      expect([bytes, told]).to eq([plain(samples), [0, 1, 0]]), step.to_s
    end
  end

  it "reads a lane out of a block where it lies" do
    block = Numo::SFloat.new(3, 480).seq / 10_000
    expect(described_class.new.bytes(block[1, true])).to eq(plain(block[1, true].dup))
  end
end
