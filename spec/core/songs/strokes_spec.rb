# frozen_string_literal: true

RSpec.describe Loomshuttle::Songs::Strokes do
  def samples(**changes) = described_class.of(song(**changes)).map(&:sample)

  it "counts the whole song, from where its first bar begins" do
    expect(samples(start: 500).first(3)).to eq([500, 24_500, 48_500])
    expect(samples.size).to eq(64)
  end

  it "counts in before it, beats alone, however the song is divided" do
    strokes = described_class.of(song(click: { "count_in" => 1, "subdivision" => "eighths" }, start: 30_000))
    expect(strokes.first(5).map { |one| [one.sample, one.bar, one.kind] })
      .to eq([[-66_000, 0, "accent"], [-42_000, 0, "beat"], [-18_000, 0, "beat"], [6000, 0, "beat"], [30_000, 1, "accent"]])
  end

  it "is silent in sections that go without" do
    parts = [section(1, "A", 1), section(2, "B", 3, click: false), section(3, "C", 5)]
    expect(samples(sections: parts) & (192_000...384_000).to_a).to be_empty
    expect(samples(sections: parts).size).to eq(56)
  end

  it "is none where a stem is the click, or nobody wants one" do
    expect([samples(click: { "on" => false }), samples(stems: [stem(1, "Click")], click: { "stem" => 1 })]).to eq([[], []])
  end
end
