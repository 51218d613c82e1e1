# frozen_string_literal: true

# A bar at 120 in 4/4 and 48 kHz is 96,000 samples; the song's sections begin at bars 1, 3, 7 and 13.
RSpec.describe Loomshuttle::Songs::Section do
  let(:data) { Loomshuttle::Songs::SongFile.check(SongHelp.data) }

  def begins(sections)
    song = Loomshuttle::Songs::SongFile.song(Loomshuttle::Songs::SongFile.check(data.merge("sections" => sections)))
    song.parts.map { |part| [part.key, song.begins(part)] }
  end

  it "splits a song at a sample, between those that are there" do
    expect(begins(described_class.at(data, 400_123))).to eq([[1, 0], [2, 192_000], [5, 400_123], [3, 576_000], [4, 1_152_000]])
    expect(begins(described_class.at(data, 400_123, near: 1 << 30))).to eq([[1, 0], [2, 192_000], [5, 384_000], [3, 576_000], [4, 1_152_000]])
  end

  it "moves a section to a sample, and splits a song that has none" do
    expect(begins(described_class.at(data, 600_001, key: 3))[2]).to eq([3, 600_001])
    expect { described_class.at(data, 600_001, key: 9) }.to raise_error(Loomshuttle::Invalid, "The song has no section 9.")
    plain = data.merge("sections" => [])
    expect(begins(described_class.at(plain, 480_000))).to eq([[1, 0], [2, 480_000]])
  end

  it "says the nearest bar, and how far from it a place is" do
    song = Loomshuttle::Songs::SongFile.song(data.merge("start" => 1000))
    expect(described_class.place(1000 + (2 * 96_000) - 5, song)).to eq("bar" => 3, "shift" => -5)
    expect(described_class.place(1000 + (2 * 96_000) - 5, song, near: 5)).to eq("bar" => 3, "shift" => 0)
    expect(described_class.place(0, song)).to eq("bar" => 1, "shift" => -1000)
  end
end
