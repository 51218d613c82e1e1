# frozen_string_literal: true

RSpec.describe Loomshuttle::Songs::Varied do
  let(:data) do
    Loomshuttle::Songs::SongFile.check(
      data_of_song.merge("tempos" => [{ "at" => 0, "bpm" => 96.5 }, { "at" => 17, "bpm" => 131, "ramp" => true }, { "at" => 29, "bpm" => 101.25 }],
                         "meters" => [{ "bar" => 1, "meter" => "7/8" }, { "bar" => 5, "meter" => "3/4" }], "start" => 12_345)
    )
  end
  let(:data_of_song) { data_with([SongHelp.stem(1, "Strings", sum: "a" * 64), SongHelp.stem(2, "Drum loop", sum: "b" * 64), SongHelp.stem(3, "Click", sum: "c" * 64)]) }

  def data_with(stems) = SongHelp.data(stems: stems, sections: [SongHelp.section(1, "Intro", 1), SongHelp.section(2, "Verse", 3), SongHelp.section(3, "Chorus", 7, shift: -400)])

  def song(tempo, key = 0) = Loomshuttle::Songs::SongFile.song(described_class.data(data, tempo, key))

  # A place at p percent comes 100/p times as late: held against the fraction, through steps, ramps and time signatures.
  it "puts every beat where the fraction says, and every section, but for what is rounded three times" do
    plain = song(100)
    (70..140).each do |tempo|
      varied = song(tempo)
      ratio = Rational(100, tempo)
      plain.parts.drop(1).each { |part| expect(varied.begins(varied.section(part.key)) - (plain.begins(part) * ratio)).to be_between(-3, 3) }
      [0, 7, 16.75r, 23, 40].each { |quarter| expect(varied.map.seconds(quarter)).to be_within(1e-9).of(plain.map.seconds(quarter) * ratio) }
    end
  end

  # An hour of beats at figures that are not fractions of two.
  it "drifts by less than a sample in an hour" do
    plain = Loomshuttle::Timing::TempoMap.plain(96.7, "4/4", rate: 48_000)
    varied = described_class.data(Loomshuttle::Songs::SongFile.check(SongHelp.data("tempos" => [{ "at" => 0, "bpm" => 96.7 }])), 93, 0)["tempos"].first["bpm"]
    expect(Loomshuttle::Timing::TempoMap.plain(varied, "4/4", rate: 48_000).sample(5400)).to eq((plain.seconds(5400) * 100 / 93 * 48_000).round)
  end

  it "is the song itself at 100 % in its own key" do
    expect(described_class.data(data, 100, 0)).to equal(data)
  end

  it "transposes what has a key, and leaves drums, click and guide as they sound" do
    files = described_class.data(data, 94, -2)["stems"].map { |stem| stem["file"] }
    expect(files).to eq(["varied/94 -2/#{'a' * 32}.wav", "varied/94 0/#{'b' * 32}.wav", "varied/94 0/#{'c' * 32}.wav"])
  end

  it "refuses a tempo that nobody can play, in words" do
    fast = Loomshuttle::Songs::SongFile.check(SongHelp.data("tempos" => [{ "at" => 0, "bpm" => 320 }]))
    expect { described_class.data(fast, 140, 0) }.to raise_error(Loomshuttle::Invalid, "At 140 % the tempo would be 448.0; 20 to 400 can be played.")
  end
end
