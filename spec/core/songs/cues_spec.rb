# frozen_string_literal: true

RSpec.describe Loomshuttle::Songs::Cues do
  def cues(**changes) = described_class.of(song(guide: { "on" => true }, sections: [section(1, "Intro", 1), section(2, "Verse 2", 5, words: "Last verse")], **changes))

  # At 120 quarter notes per minute a beat lasts 24,000 samples; bar 4 begins at 288,000.
  it "says the section and counts the bar before it, its last word on the beat before" do
    expect(cues.map { |cue| [cue.words, cue.at, cue.ends] }).to eq([["Last verse", nil, 312_000], ["two", 312_000, nil], ["three", 336_000, nil], ["four", 360_000, nil]])
  end

  it "announces the first section where it is counted in" do
    counted = cues(click: { "count_in" => 2 }).first(4)
    expect(counted.map { |cue| [cue.words, cue.at || cue.ends] }).to eq([["Intro", -72_000], ["two", -72_000], ["three", -48_000], ["four", -24_000]])
  end

  it "counts seven in seven, in the chosen language, or not at all" do
    seven = cues(meters: [{ "bar" => 1, "meter" => "7/8" }], guide: { "on" => true, "voice" => "de" })
    expect(seven.drop(1).map(&:words)).to eq(%w[zwei drei vier fünf sechs sieben])
    expect(seven.drop(1).map(&:at).each_cons(2).map { |one, other| other - one }.uniq).to eq([12_000])
    expect(cues(guide: { "on" => true, "count" => false }).map { |cue| [cue.words, cue.ends] }).to eq([["Last verse", 384_000]])
    expect(cues(guide: { "on" => false })).to eq([])
  end
end
