# frozen_string_literal: true

# A badly named delivery in several formats, made with sox and ffmpeg, and what becomes of it.
RSpec.describe Loomshuttle::Porter::BringIn, :folder do
  let(:show) do
    names = ["Tuba", "Cornet 1", "Cornet 2", "Fiddle", "Voice Ada"]
    names.each.with_index(1).reduce(straight(5)) { |now, (name, n)| set(now, "channel/#{n}/name" => name, "track/#{n}/name" => "") }
  end
  let(:delivery) { File.join(@folder, "delivered").tap { |path| FileUtils.mkdir_p(path) } }
  let(:jobs) { Loomshuttle::Web::Jobs.new(@folder) }
  let(:deliveries) { Loomshuttle::Web::Deliveries.new(@folder, jobs, folders: Loomshuttle::Web::AllowedFolders.new([@folder])) }
  let(:porter) { Loomshuttle::Porter::Server.new(home: @folder) }
  let(:source) { { "folder" => delivery } }

  def tone(name, frequency, seconds, rate: 48_000, channels: 1)
    wav = File.join(@folder, "tone.wav")
    Tools.run("sox", "-D", "-n", "-r", rate, "-b", "24", "-c", channels, "-t", "wavpcm", wav, "synth", seconds, "sine", frequency, "gain", "-6")
    path = File.join(delivery, name)
    name.end_with?(".wav") ? FileUtils.mv(wav, path) : Tools.run("ffmpeg", "-v", "error", "-y", "-i", wav, path)
  end

  def bring(items, **options)
    deliveries.bring_in(items, show, name: "Brought", **options)
    porter.work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    jobs.all.first
  end

  def take(job) = JSON.parse(File.read(File.join(job["result"], "take.json")))

  # Frequency of a track, from its zero crossings.
  def frequency(job, number)
    track = take(job)["tracks"].find { |one| one["number"] == number }
    samples = Loomshuttle::Formats::Wav::Reader.new(File.join(job["result"], track["file"])).read(4800, 48_000)[true, 0].to_a
    samples.each_cons(2).count { |one, two| one.negative? && !two.negative? }
  end

  it "becomes a take on one start, of one rate and length, with each file on its track" do
    tone("01_TUBA_final.mp3", 110, 3, rate: 44_100)
    tone("crn1.flac", 220, 2.5)
    tone("Cornet-2 (audio).aif", 330, 2)
    tone("fidle.wav", 440, 3.5, rate: 96_000)
    tone("Triangle.wav", 880, 1, channels: 2)
    File.write(File.join(delivery, "notes.txt"), "hello")
    File.write(File.join(delivery, "broken.wav"), "no sound")
    items, problems = deliveries.look(source, show)
    expect(problems.map { |one| one[:where] }).to contain_exactly("notes.txt", File.join("broken.wav"))
    expect(items.to_h do |item|
      [File.basename(item.sounds.first.path), item.target]
    end).to eq("01_TUBA_final.mp3" => 1, "crn1.flac" => 2, "Cornet-2 (audio).aif" => 3, "fidle.wav" => 4,
               "Triangle.wav" => nil)
    job = bring(items)
    expect(job.values_at("state", "error")).to eq(["done", nil])
    expect([1, 2, 3, 4].map { |number| frequency(job, number) }).to match([110, 220, 330, 440].map { |hz| be_within(1).of(hz) })
    files = Dir[File.join(job["result"], "*.wav")]
    probed = files.map { |path| Tools.run("ffprobe", "-v", "error", "-show_entries", "stream=sample_rate,duration_ts,bits_per_sample", "-of", "csv=p=0", path).strip }
    expect(probed.uniq).to eq(["48000,24,#{take(job)['frames']}"]), probed.inspect
    expect(take(job)["frames"]).to be_within(100).of(3.5 * 48_000)
    expect(take(job)["tracks"].map { |track| track["inputs"].size }.sort).to eq([1, 1, 1, 1, 2])
  end

  it "puts parts one behind the other, or takes the one that is wanted" do
    tone("Fiddle-0001.wav", 440, 2)
    tone("Fiddle-0002.wav", 550, 1.5)
    items, = deliveries.look(source, show)
    expect(items.size).to eq(1)
    expect(take(bring(items))["frames"]).to eq((3.5 * 48_000).to_i)
    second = bring(items, part: 2)
    expect([take(second)["frames"], frequency(second, 4)]).to match([72_000, be_within(1).of(550)])
    expect { bring(items, part: 3) }.to raise_error(Loomshuttle::Invalid, /no part 3/)
  end

  it "joins left and right of any rate, the shorter one with silence, and takes one channel of a file, to the bit" do
    tone("Fiddle L.wav", 440, 2)
    tone("Fiddle R.wav", 880, 1, rate: 44_100)
    tone("Room.wav", 220, 1, channels: 6)
    items, = deliveries.look(source, show)
    expect(items.size).to eq(3) # the show has no stereo track
    left, right, room = items.map { |item| item.recording.pieces.first.first }
    arranged = Loomshuttle::Web::Arrangement.new(items.flat_map(&:sounds), show).items(
      [{ "pieces" => [[left, right].map { |one| { "file" => one.sound.path, "lane" => nil } }], "track" => 4, "offset" => 0 },
       { "pieces" => [[{ "file" => room.sound.path, "lane" => 5 }]], "track" => 1, "offset" => 4800 }]
    )
    expect(arranged.map(&:title)).to eq(["Fiddle", "Room 6"])
    job = bring(arranged)
    both = Loomshuttle::Formats::Wav::Reader.new(File.join(job["result"], take(job)["tracks"].find { |one| one["number"] == 4 }["file"])).read
    expect([both.shape, both[true, 0].eq(Loomshuttle::Formats::Wav::Reader.new(left.sound.path).read[true, 0]).all?]).to eq([[96_000, 2], true])
    crossings = both[4800...28_800, 1].to_a.each_cons(2).count { |one, two| one.negative? && !two.negative? }
    expect([crossings, both[50_000...96_000, 1].abs.max]).to match([be_within(2).of(440), 0])
    expect(frequency(job, 1)).to be_within(20).of(220) # a second of it, of which a tenth is silence
    expect(take(job)["frames"]).to eq(96_000)
  end

  it "limits what is above full scale once, and says where; what has more than 24 bits is dithered" do
    Tools.run("sox", "-D", "-n", "-r", 48_000, "-b", "32", "-e", "floating-point", "-c", 1, File.join(@folder, "half.wav"), "synth", 1, "sine", 1000, "vol", 0.5)
    Tools.run("ffmpeg", "-v", "error", "-i", File.join(@folder, "half.wav"), "-af", "volume=3:precision=float", "-c:a", "pcm_f32le", File.join(delivery, "Fiddle.wav"))
    Tools.run("ffmpeg", "-v", "error", "-i", File.join(@folder, "half.wav"), "-af", "volume=0.0000001:precision=float", "-c:a", "pcm_f32le", File.join(delivery, "Tuba.wav"))
    items, = deliveries.look(source, show)
    job = bring(items)
    told = take(job)
    expect(told["note"]).to match(/\ALimited at full scale: Fiddle \(\d+ samples\).\z/)
    soft = Loomshuttle::Formats::Wav::Reader.new(File.join(job["result"], told["tracks"].find { |track| track["name"] == "Tuba" }["file"])).read
    expect(soft.abs.max).to be_between(1, 2) # 0.42 of a step would be rounded to nothing
  end

  it "refuses what the look had not seen, and what cannot be left and right" do
    tone("Fiddle.wav", 440, 1, channels: 2)
    tone("Tuba.wav", 110, 1)
    items, = deliveries.look(source, show)
    arrangement = Loomshuttle::Web::Arrangement.new(items.flat_map(&:sounds), show)
    fiddle, tuba = items.map { |item| { "file" => item.sounds.first.path, "lane" => nil } }
    {
      [[{ "file" => "/etc/passwd", "lane" => nil }]] => /files have changed/, [[fiddle.merge("lane" => 2)]] => /Fiddle.wav has no channel 3/,
      [[fiddle, tuba]] => /Fiddle.wav has 2 channels; left and right are one each/, [] => /one file at least/, [[tuba, tuba, tuba]] => /one file, or left and right/
    }.each { |pieces, words| expect { arrangement.items([{ "pieces" => pieces, "track" => 4, "offset" => 0 }]) }.to raise_error(Loomshuttle::Invalid, words) }
    expect { arrangement.items([{ "pieces" => [[tuba]], "track" => 99, "offset" => 0 }]) }.to raise_error(Loomshuttle::Invalid, /no track 99/)
    FileUtils.rm_f(tuba["file"])
    expect { arrangement.items([{ "pieces" => [[tuba]], "track" => 1, "offset" => 0 }]) }.to raise_error(Loomshuttle::Invalid, /files have changed/)
  end

  it "knows our own exports by what they are called inside, however their files are called" do
    tone("Tuba.wav", 110, 1)
    tone("Fiddle.wav", 440, 1)
    job = bring(deliveries.look(source, show).first)
    FileUtils.rm_f(Dir[File.join(delivery, "*")])
    Dir[File.join(job["result"], "*.wav")].each_with_index { |path, at| FileUtils.cp(path, File.join(delivery, "x#{at}.wav")) }
    items, = deliveries.look(source, show)
    expect(items.map { |item| [item.title, item.target, item.score] }).to contain_exactly(["Tuba", 1, 1.0], ["Fiddle", 4, 1.0])
  end

  it "clears away what was sent and given up, unless it is being brought in" do
    id = deliveries.create
    tone("Tuba.wav", 110, 1)
    File.open(File.join(delivery, "Tuba.wav"), "rb") { |io| deliveries.add(id, "Tuba.wav", io) }
    deliveries.bring_in(deliveries.look({ "id" => id }, show).first, show, name: "Brought")
    expect { deliveries.give_up(id) }.to raise_error(Loomshuttle::Invalid, /being imported/)
    porter.work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    deliveries.give_up(id)
    expect(Dir.exist?(File.join(@folder, "deliveries", id))).to be(false)
    expect { deliveries.give_up("../jobs") }.to raise_error(Loomshuttle::Invalid, /no such upload/)
  end

  it "is taken over by the recorder under its next number, and plays" do
    tone("Tuba.wav", 110, 1)
    job = bring(deliveries.look(source, show).first)
    rig = VirtualRig.new(home: File.join(@folder, "rig")).patch_straight
    rig.run(0.2)
    expect(rig.recorder.shelf.adopt(folder: job["result"])).to include("number" => 1, "name" => "Brought")
    expect(jobs.ready).to eq([])
    expect(rig.recorder.play(take: 1)).to include("frames" => 48_000)
  end

  it "is sent file by file from elsewhere" do
    id = deliveries.create
    tone("Tuba.wav", 110, 1)
    File.open(File.join(delivery, "Tuba.wav"), "rb") { |io| deliveries.add(id, "Tuba.wav", io) }
    expect(deliveries.look({ "id" => id }, show).first.map(&:target)).to eq([1])
    expect { deliveries.add(id, "../../evil.sh", StringIO.new("x")) }.to raise_error(Loomshuttle::Invalid, /not the name of a sound file/)
    expect { deliveries.add("../x", "a.wav", StringIO.new("x")) }.to raise_error(Loomshuttle::Invalid, /no such upload/)
  end

  it "says what is not there, and what cannot be" do
    expect { deliveries.look({ "folder" => "/nowhere" }, show) }.to raise_error(Loomshuttle::Invalid, %r{/nowhere is outside the allowed})
    expect { deliveries.look(source, show) }.to raise_error(Loomshuttle::Invalid, /no sound file/)
    tone("Tuba.wav", 110, 1)
    tone("Bass.wav", 110, 1)
    items, = deliveries.look(source, show)
    both = items.map { |item| item.with(target: 1) }
    expect { deliveries.bring_in(both, show, name: "x") }.to raise_error(Loomshuttle::Invalid, /to one track/)
    expect { deliveries.bring_in(both.first(1), show, name: " ") }.to raise_error(Loomshuttle::Invalid, /needs a name/)
    expect { deliveries.bring_in([], show, name: "x") }.to raise_error(Loomshuttle::Invalid, /at least one/)
  end

  # ffmpeg would open what such a file names.
  it "takes no list of other files for sound, whatever it is called" do
    tone("secret.wav", 440, 1)
    FileUtils.mv(File.join(delivery, "secret.wav"), File.join(@folder, "secret.wav"))
    File.write(File.join(delivery, "Fiddle.wav"), "ffconcat version 1.0\nfile ../secret.wav\n")
    expect(Tools.run("ffprobe", "-v", "error", "-safe", "0", "-show_entries", "format=format_name", "-of", "csv=p=0", File.join(delivery, "Fiddle.wav")).strip).to eq("concat")
    FileUtils.cp(File.join(@folder, "secret.wav"), delivery)
    File.write(File.join(delivery, "Tuba.wav"), "ffconcat version 1.0\nfile secret.wav\n")
    expect(Loomshuttle::Web::Probe.sound(File.join(delivery, "Tuba.wav"))).to be_nil
    jobs.bring_in(name: "Evil", rate: 48_000, project: "",
                  items: [{ "title" => "Tuba", "track" => 1, "lanes" => 1, "wide" => false, "offset" => 0, "files" => [File.join(delivery, "Tuba.wav")] }])
    porter.work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)
    expect(jobs.all.first).to include("state" => "failed", "error" => /Tuba.wav cannot be read as sound/)
  end
end
