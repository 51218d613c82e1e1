# frozen_string_literal: true

RSpec.describe Loomshuttle::Songs::SongFile do
  it "gives everything that a song has, also what nobody has set" do
    kept = described_class.check(data(stems: [stem(1, "Strings", lanes: 2)]))
    expect(kept).to include("follows" => "hand", "trim_db" => 0)
    expect(kept["stems"].first).to include("gain_db" => 0, "mute" => false)
    expect(described_class.check(JSON.parse(described_class.dump(kept)))).to eq(kept)
  end

  it "puts sections where their bars begin, later by what they are moved" do
    one = song(start: 1000, sections: [section(1, "A", 1), section(2, "B", 5, shift: -40)])
    expect(one.parts.map { |part| [one.begins(part), one.ends(part)] }).to eq([[0, 384_960], [384_960, 1_536_000]])
    expect([one.section_at(384_959).name, one.section_at(384_960).name]).to eq(%w[A B])
    expect(one.place(1000 + 96_000 + 24_000)).to eq([2, 2])
    expect(one.place(1000 - 24_000)).to eq([0, 4])
  end

  it "reads tempos in fractions" do
    expect(song(sections: [], tempos: [{ "at" => 0, "bpm" => 120 }, { "at" => "7/2", "bpm" => 60 }]).map.sample(4)).to eq((3.5 * 24_000) + 24_000)
  end

  { { sections: [{ "key" => 1, "name" => "A", "bar" => 5 }, { "key" => 2, "name" => "B", "bar" => 5 }, { "key" => 3, "name" => "C", "bar" => 5 }] } => /each later/,
    { sections: [{ "key" => 1, "name" => "A", "bar" => 1 }, { "key" => 1, "name" => "B", "bar" => 5 }] } => /one number/,
    { sections: [{ "key" => 1, "name" => "A", "bar" => 1 }, { "key" => 2, "name" => "B", "bar" => 90 }] } => /B begins behind the end/,
    { click: { "stem" => 4 } } => /none of the song's/, { click: { "sound" => "bell" } } => /one of wood/, { click: { "accents" => { "4/4" => [5] } } } => /from 1 to 4/,
    { tempos: [{ "at" => 1, "bpm" => 120 }] } => /from the beginning/, { tempos: [{ "at" => "1/0", "bpm" => 120 }] } => /is not valid/, { name: "" } => /needs 1/,
    { frames: "1" } => /whole number/, { stems: [{ "id" => 1, "name" => "a", "role" => "a", "file" => "../a", "lanes" => 1, "frames" => 1, "sum" => "0" * 64 }] } => /look like/ }
    .each do |wrong, message|
    it("refuses #{wrong}") { expect { described_class.check(data(**wrong)) }.to raise_error(Loomshuttle::Invalid, message) }
  end
end
