# frozen_string_literal: true

RSpec.describe Loomshuttle::Player::SongReader, :folder do
  let(:library) { described_class.new(@folder, 48_000) }
  let(:id) { SongFolder.write(@folder, { "Strings" => SongFolder.noise(48_000) }) }

  def tonight(tempo, key) = Loomshuttle::Songs::Tonight.plain.with(tempo: tempo, key: key)

  it "opens a song as it goes tonight once its parts are made, and says so before" do
    expect { library.open(id, tonight(80, 0)) }.to raise_error(Loomshuttle::Invalid, "Tide is not rendered at 80 % yet. Render it under Tonight, in Playback.")
    expect(library.made?(id, 80, 0)).to be(false)
    stem = Loomshuttle::Songs::SongFile.read(File.join(@folder, id))["stems"].first
    made = File.join(@folder, id, Loomshuttle::Songs::Varied.file(stem, 80, 0))
    FileUtils.mkdir_p(File.dirname(made))
    SongFolder.stem(File.dirname(made), "Strings", SongFolder.noise(60_000, 2), 7, 48_000)
    FileUtils.mv(File.join(File.dirname(made), "7.wav"), made)
    song, stock, = library.open(id, tonight(80, 0))
    2.times { stock.fill }
    expect(library.made?(id, 80, 0)).to be(true)
    expect(song.frames).to eq(60_000)
    expect(song.map.tempos.first.bpm).to eq(96)
    expect(stock.read(1, 59_000, 1000) { raise "missed" }).to eq(Numo::SFloat.cast(SongFolder.noise(60_000, 2)[59_000...60_000].reshape(1000, 1)) / 8_388_608)
    expect(stock.troubles).to be_empty
  end
end
