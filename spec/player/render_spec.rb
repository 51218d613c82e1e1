# frozen_string_literal: true

# A song written as files, beside SoX mixing the same stems by the same gains, and beside what the player sends.
RSpec.describe Loomshuttle::Player::Render, :folder do
  let(:songs) { File.join(@folder, "songs") }
  let(:out) { File.join(@folder, "out") }
  let(:stereo) { Numo::NArray.vstack([SongFolder.noise(96_000, 1), SongFolder.noise(96_000, 2)]).transpose.dup }

  def song(**changes)
    id = SongFolder.write(songs, { "Strings" => stereo, "Loop" => SongFolder.noise(96_000, 3) }, click: { "on" => false }, **changes)
    [Loomshuttle::Songs::SongFile.song(Loomshuttle::Songs::SongFile.read(File.join(songs, id))), File.join(songs, id)]
  end

  def render(roles, **changes) = described_class.new(*song(**changes), roles).run(out).to_h { |path| [path[/output (\d+)/, 1].to_i, samples(path)] }
  def samples(path) = Loomshuttle::Formats::Wav::Reader.new(path).read[true, 0]

  # SoX adds up in 32-bit integers and rounds once, as we do in floats: a step of 24 bits apart at most.
  it "mixes what SoX mixes: left and right, a mono sum by -3 or -6 dB, a bed" do
    made = render([role("Strings", 1, sum_db: -6, bed_db: -20), role("Loop", 1, 2), role("Click", 3)])
    strings, loops = %w[1.wav 2.wav].map { |file| File.join(songs, "00000000-0000-4000-8000-000000000001", file) }
    gain = ->(decibels) { 10**(decibels / 20.0) }
    third = gain.call(-10 * Math.log10(2))
    { 1 => "1v#{gain.call(-6)},2v#{gain.call(-6)},3v#{third}", 2 => "3v#{third}", 3 => "1v#{gain.call(-26)},2v#{gain.call(-26)}" }.each do |output, remix|
      path = File.join(@folder, "sox.wav")
      Tools.run("sox", "-D", "-M", strings, loops, "-b", "24", "-t", "wavpcm", path, "remix", remix)
      expect((made.fetch(output) - samples(path)).abs.max).to be <= 1, "output #{output}"
    end
  end

  it "is what the player sends, to the sample, with sections skipped and repeated" do
    sections = [{ "key" => 1, "name" => "A", "bar" => 1 }, { "key" => 2, "name" => "B", "bar" => 2 }]
    tempos = [{ "at" => 0, "bpm" => 240 }]
    _, folder = song(tempos: tempos)
    File.write(File.join(folder, "song.json"), JSON.generate(JSON.parse(File.read(File.join(folder, "song.json"))).merge("sections" => sections)))
    one = Loomshuttle::Songs::SongFile.song(Loomshuttle::Songs::SongFile.read(folder))
    tonight = Loomshuttle::Songs::Tonight.plain.with(repeats: { 1 => 3 })
    path = described_class.new(one, folder, [role("Loop", 1)], tonight: tonight).run(out).first
    rig = VirtualPlayback.new(songs)
    rig.player.configure(items: [{ "key" => 1, "song" => one.id, "repeats" => { "1" => 3 } }], roles: [{ "name" => "Loop", "kind" => "parts", "outputs" => [1] }])
    rig.run(0.1)
    rig.player.load(item: 1)
    rig.player.command("play")
    rig.run(5)
    heard = rig.output(1)
    first = heard.index { |sample| !sample.zero? }
    file = samples(path)
    expect(file.size).to eq(96_000 + (2 * 48_000))
    expect(heard[first, file.size]).to eq(file.to_a)
  end

  it "writes nothing where nothing has an output" do
    expect { render([role("Choir", 1)]) }.to raise_error(Loomshuttle::Invalid, "No part of Tide has an output.")
    expect(File.exist?(out)).to be(false)
  end
end
