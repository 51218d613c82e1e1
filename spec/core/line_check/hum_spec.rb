# frozen_string_literal: true

require "numo/pocketfft"

RSpec.describe Loomshuttle::LineCheck::Hum do
  let(:rate) { 1000 }
  let(:time) { Numo::DFloat.new(1000).seq / 1000 }

  def tone(frequency, level) = Numo::NMath.sin((time * (2 * Math::PI * frequency)) + 0.3) * Loomshuttle::Audio::Level.amplitude(level)
  def lines(signal) = described_class.lines(signal.reshape(1000, 1), rate).first
  def buzz(mains, level) = [0, -3, -6, -9].each.with_index(1).sum { |down, n| tone(mains * n, level + down) }
  def found(*seconds, loud: -20.0) = described_class.new.tap { |hum| seconds.each { |one| hum.add(lines(one)) } }.found(loud)

  # The same bins by a discrete Fourier transform behind the same window (numo-pocketfft).
  it "measures lines as a Fourier transform does" do
    noise = Numo::DFloat.new(1000, 3)
    Numo::NArray.srand(5)
    noise.rand(-1, 1)
    noise[true, 1] += tone(50, -3)
    window = 0.5 - (Numo::NMath.cos(Numo::DFloat.new(1000).seq * (2 * Math::PI / 1000)) * 0.5)
    spectrum = Numo::DFloat.hstack((0..2).map { |lane| (Numo::Pocketfft.rfft(noise[true, lane] * window).abs * (2 / window.sum)).reshape(501, 1) })
    ours = Loomshuttle::Audio::SpectralLines.amplitudes(noise, described_class::FREQUENCIES, rate)
    expect((ours - spectrum[described_class::FREQUENCIES, true]).abs.max).to be < 1e-9
  end

  it "reads a sine at its own level" do
    expect(Loomshuttle::Audio::Level.dbfs(lines(tone(50, -30))[0])).to be_within(0.01).of(-30)
  end

  it "hears 50 and 60 Hz with their harmonics, and tells which" do
    expect(found(*Array.new(5) { buzz(50, -40) })).to have_attributes(mains: 50, level: be_within(0.5).of(-37.6), lines: [50, 100, 150, 200])
    expect(found(*Array.new(5) { buzz(60, -40) })).to have_attributes(mains: 60, lines: [60, 120, 180, 240])
  end

  it "waits for five seconds of it" do
    expect(found(*Array.new(4) { buzz(50, -40) })).to be_nil
  end

  it "takes nothing that is played for hum: tones that come and go, a lone low note, noise" do
    expect(found(*[-40, -50, -40, -40, -40].map { |level| buzz(50, level) })).to be_nil
    expect(found(*Array.new(5) { tone(50, -30) })).to be_nil
    expect(found(*Array.new(5) { tone(98, -20) + tone(147, -26) })).to be_nil
  end

  it "takes hardly any hiss for hum, and finds hum in hiss" do
    Numo::NArray.srand(11)
    hiss = ->(peak) { Numo::DFloat.new(1000).rand(-peak, peak) }
    expect(Array.new(300) { found(*Array.new(5) { hiss.call(0.1) }) }.compact.size).to be <= 2
    expect(Array.new(50) { found(*Array.new(5) { buzz(50, -40) + hiss.call(0.01) }) }).to all(have_attributes(mains: 50))
  end

  it "leaves hum alone that nobody hears" do
    expect(found(*Array.new(5) { buzz(50, -62) })).to be_nil
    expect(found(*Array.new(5) { buzz(50, -62) }, loud: nil)).not_to be_nil
  end
end

RSpec.describe Loomshuttle::LineCheck::Likeness do
  def random(seed) = Numo::NArray.srand(seed) || Numo::DFloat.new(1000).rand(-0.5, 0.5)
  def pairs(*lanes) = described_class.pairs(Numo::DFloat.hstack(lanes.map { |lane| lane.reshape(1000, 1) })).map { |one, two, r| [one, two, r.round(2)] }

  it "finds what is the same, louder or softer, and what is turned over" do
    one, two = random(1), random(2)
    expect(pairs(one, two, one * 0.3)).to eq([[0, 2, 1.0]])
    expect(pairs(one, two * -1, two)).to eq([[1, 2, -1.0]])
  end

  # r = sqrt(1 / (1 + n)) for a signal and the same with noise of n times its power: 0.95 for a tenth of it.
  it "leaves two microphones at one source alone, unless one is turned over" do
    one, noise = random(1), random(3)
    expect(pairs(one, one + (noise * Math.sqrt(0.1)))).to eq([])
    expect(pairs(one, (noise * Math.sqrt(0.1)) - one)).to match([[0, 1, be_within(0.02).of(-0.95)]])
  end

  it "compares nothing with silence" do
    expect(pairs(random(1), Numo::DFloat.zeros(1000), random(1) * 0.0001)).to eq([])
  end
end
