# frozen_string_literal: true

RSpec.describe Loomshuttle::Timing::Click do
  def strokes(meter, bars: 1..1, **options) = described_class.new(Loomshuttle::Timing::TempoMap.plain(120, meter, rate: 48_000), **options).strokes(bars).to_a
  def told(list) = list.map { |stroke| [stroke.sample / 1000, { "accent" => "X", "beat" => "x", "between" => "." }.fetch(stroke.kind)] }

  it "falls on every beat, the first with an accent, bar after bar" do
    expect(told(strokes("3/4", bars: 2..3))).to eq([[72, "X"], [96, "x"], [120, "x"], [144, "X"], [168, "x"], [192, "x"]])
  end

  # Compound and odd times in their usual groups (common practice, no published source).
  { "6/8" => "XxxXxx", "7/8" => "XxXxXxx", "9/8" => "XxxXxxXxx", "5/8" => "XxxXx", "4/4" => "Xxxx", "2/2" => "Xx" }.each do |meter, pattern|
    it("groups #{meter} as #{pattern}") { expect(told(strokes(meter)).map(&:last).join).to eq(pattern) }
  end

  it "has accents on chosen beats" do
    chosen = strokes("7/8", accents: { "7/8" => [1, 4, 6] }, subdivision: "eighths")
    expect(told(chosen)).to eq([[0, "X"], [12, "x"], [24, "x"], [36, "X"], [48, "x"], [60, "X"], [72, "x"]])
  end

  it "has strokes between the beats" do
    expect(told(strokes("2/4", subdivision: "triplets"))).to eq([[0, "X"], [8, "."], [16, "."], [24, "x"], [32, "."], [40, "."]])
    expect(told(strokes("2/4", subdivision: "sixteenths")).map(&:last).join).to eq("X...x...")
    expect(told(strokes("7/8", subdivision: "quarters"))).to eq([[0, "X"], [24, "X"], [48, "X"], [72, "x"]])
  end

  it "refuses what cannot be" do
    expect { strokes("4/4", subdivision: "thirds") }.to raise_error(Loomshuttle::Invalid, /no subdivision thirds/)
    [[0], [5], ["1"], 1].each { |beats| expect { strokes("4/4", accents: { "4/4" => beats }) }.to raise_error(Loomshuttle::Invalid, /beats from 1 to 4/) }
  end
end

RSpec.describe Loomshuttle::Audio::ClickSounds do
  it "has sounds that begin softly, are loudest at once, are over soon, and differ" do
    sounds = described_class::NAMES.product(%w[accent beat between], [44_100, 96_000]).map { |name, kind, rate| [rate, kind, described_class.of(name, kind, rate)] }
    sounds.each do |rate, kind, sound|
      expect(sound.abs.max).to be_within(1e-9).of(described_class::LEVEL.fetch(kind))
      expect(sound[0].abs).to be < 0.01
      expect(sound.abs.max_index).to be < rate * 0.003
      expect(sound[-1].abs).to be < 0.03
    end
    expect(described_class::NAMES.map { |name| described_class.of(name, "beat", 48_000).to_a }.uniq.size).to eq(4)
    expect { described_class.of("bell", "beat", 48_000) }.to raise_error(Loomshuttle::Invalid, /no click sound bell/)
  end
end
