# frozen_string_literal: true

# A bar at 120 in 4/4 and 48 kHz is 96,000 samples.
RSpec.describe Loomshuttle::Songs::FromCues do
  def sections(cues, **changes) = described_class.sections(cues, song(sections: [], **changes))

  it "begins sections at the nearest bar, and keeps a place that is meant to be off it" do
    expect(sections([[0, "Intro"], [96_000 + 900, "Verse"], [(4 * 96_000) - 9600, "Chorus"], [1_500_000, "End"]]))
      .to eq([{ "key" => 1, "name" => "Intro", "bar" => 1, "shift" => 0 }, { "key" => 2, "name" => "Verse", "bar" => 2, "shift" => 0 },
              { "key" => 3, "name" => "Chorus", "bar" => 5, "shift" => -9600 }])
  end

  it "has a section before the first place that comes late, and names for places that have none" do
    expect(sections([[5 * 96_000, ""]], start: 96_000).map { |one| one.values_at("name", "bar") }).to eq([["Start", 1], ["Section 2", 5]])
    expect(sections([])).to eq([])
  end
end
