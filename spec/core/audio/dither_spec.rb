# frozen_string_literal: true

RSpec.describe Loomshuttle::Audio::Dither do
  def rounded(block, at: 0) = described_class.round(block, at, 32_768)

  it "is triangular, two steps from peak to peak: its error has the power of a quarter of a step squared, whatever the signal" do
    [0.1, 0.25, 0.5, 100.3].each do |level|
      error = rounded(Numo::DFloat.new(60_000).fill(level)) - level
      expect(error.mean).to be_within(0.01).of(0)
      expect((error**2).mean).to be_within(0.01).of(0.25) # 1/6 of the noise and 1/12 of rounding (Lipshitz, Wannamaker and Vanderkooy 1992; from memory)
      expect(error.abs.max).to be <= 1.5
    end
  end

  # A sine of a third of a step is nothing to plain rounding.
  it "keeps what is softer than a step, and adds no harmonics" do
    time = Numo::DFloat.new(48_000).seq
    wave = Numo::NMath.sin(time * (2 * Math::PI * 1000 / 48_000)) * 0.33
    expect(wave.round.abs.max).to eq(0)
    heard = rounded(wave)
    strength = ->(hz) { Math.hypot((heard * Numo::NMath.sin(time * (2 * Math::PI * hz / 48_000))).sum, (heard * Numo::NMath.cos(time * (2 * Math::PI * hz / 48_000))).sum) * 2 / 48_000 }
    expect(strength[1000]).to be_within(0.02).of(0.33)
    expect([2000, 3000, 5000].map { |hz| strength[hz] }).to all(be < 0.02)
  end

  it "leaves silence silent, stays within full scale, and is the same however it is asked for" do
    expect(rounded(Numo::DFloat.zeros(100, 2)).abs.max).to eq(0)
    expect(rounded(Numo::DFloat[40_000, -40_000]).to_a).to eq([32_767, -32_768])
    block = Numo::DFloat.new(70_000, 2).fill(0.4)
    whole = rounded(block, at: 3)
    expect(whole[60_000...70_000, true]).to eq(rounded(block[60_000...70_000, true].dup, at: 60_003))
    expect(whole[true, 0]).not_to eq(whole[true, 1])
  end
end
