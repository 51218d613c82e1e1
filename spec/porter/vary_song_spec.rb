# frozen_string_literal: true

require "numo/pocketfft"

# Stems at another tempo and in another key, by Rubber Band itself.
RSpec.describe Loomshuttle::Porter::VarySong, :folder do
  let(:songs) { File.join(@folder, "songs") }
  let(:library) { Loomshuttle::Web::SongLibrary.new(songs, on_change: -> {}) }
  let(:jobs) { Loomshuttle::Web::Jobs.new(@folder) }
  let(:rate) { 48_000 }

  def sine(pitch, seconds) = Loomshuttle::Audio::Pcm24.from_float(Numo::NMath.sin(Numo::DFloat.new(seconds * rate).seq * (2 * Math::PI * pitch / rate)) * 0.3)

  # A short burst at each half second.
  def strokes(seconds)
    (0...(seconds * 2)).each_with_object(Numo::Int32.zeros(seconds * rate)) do |nth, sound|
      burst = sine(1500, 1)[0...960] * 2
      sound[(nth * rate / 2)...((nth * rate / 2) + 960)] = burst
    end
  end

  def vary(id, tempo, key)
    entry = library.fetch(id)
    jobs.vary(entry.folder, entry.song.name, tempo, key)
    Loomshuttle::Porter::Server.new(home: @folder).work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    job = jobs.all.first
    library.keep_stems(job) if job["state"] == "done"
    job
  end

  def sound(entry, number)
    stem = entry.data["stems"].find { |one| one["id"] == number }
    Loomshuttle::Formats::Wav::Reader.new(File.join(entry.folder, stem["file"]))
  end

  def frequency(samples)
    middle = Numo::DFloat.cast(samples[24_000...(24_000 + 48_000), 0])
    Numo::Pocketfft.rfft(middle).abs.max_index.to_f
  end

  it "makes each as long as the song says to the sample, transposed where it has a key, with strokes where the tempo puts them" do
    SongFolder.write(songs, { "Strings" => Numo::NArray.vstack([sine(220, 6), sine(330, 6)]).transpose, "Drum loop" => strokes(6) })
    job = vary("00000000-0000-4000-8000-000000000001", 125, 3)
    expect(job.values_at("state", "error")).to eq(["done", nil])
    entry = library.fetch("00000000-0000-4000-8000-000000000001").varied(125, 3)
    expect(entry.made?).to be(true)
    strings, drums = sound(entry, 1), sound(entry, 2)
    expect([strings.frames, drums.frames]).to all(eq(entry.song.frames)).and all(eq(6 * rate * 100 / 125))
    # Three semitones up: a factor of 2^(3/12) = 1.1892 (equal temperament, ISO 16:1975 for its A).
    expect(frequency(strings.read)).to be_within(1).of(220 * (2**0.25))
    # A stroke each 0.4 s, within 10 ms (what is heard as together: common practice, no published source).
    heard = Numo::DFloat.cast(drums.read[true, 0]).abs
    loud = heard.gt(heard.max / 3).where.to_a
    onsets = loud.each_cons(2).select { |one, other| other - one > 4800 }.map(&:last)
    expect(onsets.size).to eq(11)
    onsets.each.with_index(1) { |at, nth| expect(at).to be_within(480).of(nth * 19_200) }
  end

  it "makes nothing twice, and again only what was exchanged" do
    id = SongFolder.write(songs, { "Strings" => sine(220, 1), "Drum loop" => strokes(1) })
    vary(id, 90, 0)
    before = Dir[File.join(songs, id, "varied", "*", "*.wav")].to_h { |path| [path, File.mtime(path)] }
    expect(before.size).to eq(2)
    vary(id, 90, 2)
    expect(Dir[File.join(songs, id, "varied", "*", "*.wav")].size).to eq(3)
    expect(before.map { |path, time| File.mtime(path) == time }).to all(be(true))
  end

  it "keeps the parts of so many tempos and keys, the newest" do
    stub_const("Loomshuttle::Web::SongLibrary::VARIED", 2)
    id = SongFolder.write(songs, { "Strings" => sine(220, 1) })
    [90, 95, 105].each.with_index(1) do |tempo, nth|
      vary(id, tempo, 0)
      FileUtils.touch(File.join(songs, id, "varied", "#{tempo} 0"), mtime: Time.now - 100 + nth)
    end
    expect(Dir.children(File.join(songs, id, "varied"))).to contain_exactly("95 0", "105 0")
  end

  it "says in words what cannot be made, and leaves the song as it is" do
    id = SongFolder.write(songs, { "Strings" => sine(220, 1) })
    File.write(File.join(songs, id, "1.wav"), "no sound")
    job = vary(id, 90, 0)
    expect(job.values_at("state", "error")).to match(["failed", /\AStrings could not be made at 90 %: /])
    expect(library.fetch(id).varied(90, 0).made?).to be(false)
  end

  it "is nothing to make at 100 % in its own key" do
    expect { jobs.vary("/songs/x", "Tide", 100, 0) }.to raise_error(Loomshuttle::Invalid, /nothing to render/)
  end
end
