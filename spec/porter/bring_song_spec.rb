# frozen_string_literal: true

# A folder of badly named stems in several formats, made with sox and ffmpeg, and the song that becomes of it.
RSpec.describe Loomshuttle::Porter::BringSong, :folder do
  let(:delivery) { File.join(@folder, "delivered").tap { |path| FileUtils.mkdir_p(path) } }
  let(:porter) { Loomshuttle::Porter::Server.new(home: @folder) }

  def tone(name, *effects, seconds: 4, rate: 48_000, channels: 1)
    wav = File.join(@folder, "tone.wav")
    Tools.run("sox", "-D", "-n", "-r", rate, "-b", "24", "-c", channels, "-t", "wavpcm", wav, "synth", seconds, *effects)
    path = File.join(delivery, name)
    name.end_with?(".wav") ? FileUtils.mv(wav, path) : Tools.run("ffmpeg", "-v", "error", "-y", "-i", wav, path)
    path
  end

  def found = Loomshuttle::Songs::Stems.of(Dir[File.join(delivery, "*")].grep_v(/\.mid\z/).filter_map { |path| Loomshuttle::Web::Probe.sound(path) })

  # @return [Array(Hash, String)] the song, and its folder
  def bring(rate: 48_000, **more)
    stems = found.map { |one| { "name" => one.name, "role" => one.role, "lanes" => one.lanes, "wide" => false, "files" => one.paths } }
    Loomshuttle::Web::Jobs.new(@folder).song(name: "Ropewalk", rate: rate, stems: stems, **more)
    porter.work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    job = Loomshuttle::Web::Jobs.new(@folder).all.first
    raise job["error"] if job["error"]

    [Loomshuttle::Songs::SongFile.read(job["result"]), job["result"]]
  end

  # Strokes of a click of our own at a tempo, beginning late, written by the core as a WAV.
  def click(name, bpm, seconds, start: 0)
    map = Loomshuttle::Timing::TempoMap.plain(bpm, "4/4", rate: 48_000)
    sound = Numo::DFloat.zeros(seconds * 48_000)
    Loomshuttle::Timing::Click.new(map).strokes(1..).take_while { |stroke| stroke.sample + start < sound.size - 3000 }.each do |stroke|
      part = Loomshuttle::Audio::ClickSounds.of("wood", stroke.kind, 48_000)
      sound[(stroke.sample + start)...(stroke.sample + start + part.size)] += part
    end
    SongFolder.stem(delivery, name, Loomshuttle::Audio::Pcm24.from_float(sound), 99, 48_000)
    FileUtils.mv(File.join(delivery, "99.wav"), File.join(delivery, name))
  end

  it "takes stems of any format, names their roles, and keeps them as they are at the playback rate" do
    tone("Ropewalk_2026_Strings_L.wav", "sine", 220)
    tone("Ropewalk_2026_Strings_R.wav", "sine", 330)
    tone("03 Ropewalk 2026 - Low Brass.flac", "sine", 110, rate: 44_100)
    tone("ropewalk-2026-CLICK.aif", "sine", 1000)
    tone("Ropewalk 2026 Frame Loop.mp3", "sine", 440, channels: 2)
    song, folder = bring
    expect(song["stems"].map { |stem| [stem["role"], stem["lanes"]] }).to contain_exactly(["Strings", 2], ["Low brass", 1], ["Click", 1], ["Frame loop", 2])
    expect(song["click"]["stem"]).to eq(song["stems"].find { |stem| stem["role"] == "Click" }["id"])
    strings = song["stems"].find { |stem| stem["role"] == "Strings" }
    sound = Loomshuttle::Formats::Wav::Reader.new(File.join(folder, strings["file"]))
    left = Loomshuttle::Formats::Wav::Reader.new(File.join(delivery, "Ropewalk_2026_Strings_L.wav"))
    expect(sound.read[true, 0]).to eq(left.read[true, 0])
    expect(strings["sum"]).to eq(Digest::SHA256.file(File.join(folder, strings["file"])).hexdigest)
    picture = Loomshuttle::Web::Waveform.new(Loomshuttle::Web::SongLibrary.like_a_take(song, folder))
    expect(picture.columns(10, track: strings["id"]).min).to be > 200
  end

  # What sndfile-info reads of the same file is what is marked.
  it "begins sections where a file has cue markers, at any rate, unless a MIDI file tells them" do
    path = tone("Strings 120bpm.wav", "sine", 220, seconds: 12, rate: 44_100)
    CueFile.mark(path, [[0, "Intro"], [2 * 44_100, "Verse"], [(6 * 44_100) + 4410, "Ch\u0153ur"]])
    expect(Tools.run("sndfile-info", path)).to match(/cue\s*: 76\s+Count\s*: 3/)
    song, = bring(bpm: 120.0)
    expect(song["sections"].map { |one| one.values_at("name", "bar", "shift") }).to eq([["Intro", 1, 0], ["Verse", 2, 0], ["Ch\u0153ur", 4, 4800]])
  end

  # The tempo that a click really has is what aubio hears in it; a sine has none.
  it "hears the tempo and the first beat where nobody says them, and believes a name before it" do
    click("Beat.wav", 97.5, 40, start: 12_345)
    song, = bring
    expect(song["tempos"]).to eq([{ "at" => 0, "bpm" => 97.5, "ramp" => false }])
    beat = 60 * 48_000 / 97.5
    off = (song["start"] - 12_345) % beat
    expect([off, beat - off].min).to be < 0.03 * 48_000
    expect(bring(bpm: 120.0).first["tempos"].first["bpm"]).to eq(120.0)
  end

  it "takes tempos, time signatures and sections from a MIDI file" do
    tone("Strings.wav", "sine", 220, seconds: 30)
    file = Loomshuttle::Formats::MidiFile.new(480).tempo(0, 120).meter(0, 4, 4).meter(8 * 480, 7, 8).tempo(8 * 480, 90)
    [[0, "Intro"], [8 * 480, "Verse"], [15 * 480, "Chorus"], [20 * 480, "End"]].each { |tick, name| file.meta(tick, 0x06, name) }
    path = File.join(delivery, "map.mid")
    File.binwrite(path, file.to_s)
    song, = bring(midi: path)
    expect(song["meters"]).to eq([{ "bar" => 1, "meter" => "4/4" }, { "bar" => 3, "meter" => "7/8" }])
    expect(song["tempos"].map { |one| [one["at"], one["bpm"]] }).to eq([[0, 120.0], [8, 90.0]])
    expect(song["sections"].map { |one| [one["name"], one["bar"]] }).to eq([["Intro", 1], ["Verse", 3], ["Chorus", 5]])
  end

  # EBU Tech 3341 (from memory), test 1: a stereo sine of 1 kHz at -23 dBFS peak reads -23 LUFS, +-0.1.
  it "measures loudness as EBU R 128 has it" do
    tone("Tone.wav", "sine", 1000, "gain", "-23", channels: 2, seconds: 20)
    expect(bring.first["loudness"]).to be_within(0.1).of(-23)
  end

  it "knows what a stem would lose in mono, up to all of it" do
    tone("Fine.wav", "sine", 220, channels: 2)
    tone("Wide L.wav", "sine", 220)
    tone("Wide R.wav", "sine", 220)
    Tools.run("sox", "-D", File.join(delivery, "Wide R.wav"), File.join(delivery, "turned.wav"), "vol", "-1")
    FileUtils.mv(File.join(delivery, "turned.wav"), File.join(delivery, "Wide R.wav"))
    stems = bring.first["stems"].to_h { |stem| [stem["role"], stem["mono_db"]] }
    expect(stems["Fine"]).to be_within(0.1).of(0)
    expect(stems["Wide"]).to be < -40
  end

  it "says what cannot be read, and leaves nothing behind" do
    path = tone("Strings.wav", "sine", 220)
    stems = [{ "name" => "Strings", "role" => "Strings", "lanes" => 1, "wide" => false, "files" => [path] }]
    job = Loomshuttle::Web::Jobs.new(@folder).song(name: "Tide", rate: 48_000, stems: stems)
    File.write(path, "no sound")
    porter.work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    expect(Loomshuttle::Web::Jobs.new(@folder).find(job["id"])).to include("state" => "failed", "error" => /Strings.wav cannot be read as sound/)
    expect(Dir.exist?(File.join(@folder, "jobs", job["id"], "work"))).to be(false)
  end

  # 6 dB above full scale, as mixes in floats are.
  it "keeps a float stem that is louder than full scale as it is" do
    path = File.join(delivery, "Loud.wav")
    Tools.run("sox", "-D", "-n", "-r", 48_000, "-b", "32", "-e", "floating-point", "-c", 1, File.join(@folder, "half.wav"), "synth", 1, "sine", 1000, "vol", 0.5)
    Tools.run("ffmpeg", "-v", "error", "-i", File.join(@folder, "half.wav"), "-af", "volume=4:precision=float", "-c:a", "pcm_f32le", path)
    song, folder = bring
    file = File.join(folder, song["stems"].first["file"])
    said = Tools.run("ffmpeg", "-hide_banner", "-i", file, "-af", "astats=measure_overall=Peak_level:measure_perchannel=none", "-f", "null", "-")
    expect(said[/Peak level dB: (\S+)/, 1].to_f).to be_within(0.01).of(6.02)
  end
end

RSpec.describe Loomshuttle::Formats::MidiReader do
  it "reads what our own writer and others write, in any format, and steps over notes" do
    map = Loomshuttle::Timing::TempoMap.plain(96, "7/8", rate: 48_000)
    read = described_class.new(Loomshuttle::Formats::ClickMidi.of(map, Loomshuttle::Timing::Click.new(map), 8))
    expect([read.tempos.map { |_, bpm| bpm.to_f.round(3) }, read.meters, read.markers]).to eq([[96.0], [[0, 7, 8]], [[28, "end"]]])
  end

  # Written by csvmidi (Debian's midicsv), format 1 with two tracks.
  it "reads a file that another program wrote" do
    Dir.mktmpdir do |folder|
      csv = "0, 0, Header, 1, 2, 480\n1, 0, Start_track\n1, 0, Tempo, 500000\n1, 960, Time_signature, 3, 2, 24, 8\n1, 960, Marker_t, \"Waltz\"\n1, 1920, End_track\n" \
            "2, 0, Start_track\n2, 0, Note_on_c, 0, 60, 90\n2, 480, Note_off_c, 0, 60, 0\n2, 480, Program_c, 1, 4\n2, 4800, End_track\n0, 0, End_of_file\n"
      File.write(File.join(folder, "a.csv"), csv)
      Tools.run("csvmidi", File.join(folder, "a.csv"), File.join(folder, "a.mid"))
      read = described_class.new(File.binread(File.join(folder, "a.mid")))
      expect([read.tempos, read.meters, read.markers, read.length]).to eq([[[0, 120]], [[2, 3, 4]], [[2, "Waltz"]], 10])
    end
  end

  it "refuses what is none, and survives any bytes" do
    random = Random.new(4)
    good = Loomshuttle::Formats::MidiFile.new(480).tempo(0, 120).meta(10, 6, "A").to_s
    500.times do
      bad = good.dup
      random.rand(1..4).times { bad.setbyte(random.rand(bad.bytesize), random.rand(256)) }
      described_class.new(bad.byteslice(0, random.rand(bad.bytesize + 1)))
    rescue Loomshuttle::Invalid
      next
    end
    expect { described_class.new("RIFF") }.to raise_error(Loomshuttle::Invalid, /not a Standard MIDI File/)
  end
end
