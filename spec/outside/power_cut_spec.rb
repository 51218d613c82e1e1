# frozen_string_literal: true

# Everything that is saved, held against a power cut after each step: only what was synced is left.
RSpec.describe "A power cut", :folder do
  let(:rig) { VirtualRig.new(home: @folder).patch_straight(3) }
  let(:recorder) { rig.recorder }
  let(:jobs) { Loomshuttle::Web::Jobs.new(@folder) }
  let(:porter) { Loomshuttle::Porter::Server.new(home: @folder) }

  after { PowerCut.forget }

  def take = Loomshuttle::Recorder::Manifest.all(recorder.takes).last.then { |folder, manifest| manifest.merge("folder" => folder) }

  def capture
    rig.run(0.2)
    recorder.capture_start(name: "Set", frames: 24_000)
    rig.run(0.3)
    recorder.mark(name: "Reel")
    rig.run(0.4)
  end

  def work = porter.work(Loomshuttle::Porter::Job.open(File.join(@folder, "jobs")).first)

  # @param ignore [Regexp] files that may be lost
  def expect_safe(watcher, ignore: /\0/)
    expect(watcher.violations).to eq([])
    expect(watcher.lost(ignore: ignore)).to eq([])
  end

  it "finds what it loses: a file that was written and renamed, and one whose folder was not synced" do
    watcher = PowerCut.watch(@folder)
    path = File.join(@folder, "a")
    File.write("#{path}.new", "text")
    File.rename("#{path}.new", path)
    expect(watcher.violations).to match([/a.new was renamed before it was synced/])
    Loomshuttle::Runtime::Files.sync(@folder)
    File.open("#{path}.new", "w") { |file| file.write("more") && file.fsync }
    File.rename("#{path}.new", path)
    expect(watcher.lost).to eq([path])
    Loomshuttle::Runtime::Files.replace(path, "in the end")
    expect(watcher.lost).to eq([])
  end

  it "leaves a take whole, and one that was renamed, marked, thrown away and taken back" do
    rig
    watcher = PowerCut.watch(recorder.takes)
    capture
    expect_safe(watcher)
    recorder.change_take(take: 1, name: "First set", markers: [{ "at" => 100, "name" => "Start" }, { "at" => 20_000, "frames" => 1000, "name" => "End" }])
    expect_safe(watcher)
    recorder.shelf.discard(take: 1)
    expect_safe(watcher)
    recorder.shelf.restore(number: 1)
    expect_safe(watcher)
  end

  it "leaves a folder whole that is moved to another disk, with everything in it" do
    from = File.join(@folder, "from").tap { |path| FileUtils.mkdir_p(File.join(path, "inside")) }
    File.write(File.join(from, "inside", "a.wav"), "sound")
    File.write(File.join(from, "take.json"), "{}")
    disk = File.join(@folder, "disk").tap { |path| Dir.mkdir(path) }
    watcher = PowerCut.watch(disk)
    to = File.join(disk, "to")
    allow(File).to receive(:rename).and_call_original
    allow(File).to receive(:rename).with(from, to).and_raise(Errno::EXDEV)
    Loomshuttle::Runtime::Files.move(from, to)
    expect(File.read(File.join(to, "inside", "a.wav"))).to eq("sound")
    expect_safe(watcher)
  end

  it "leaves the sound of a take alone while its markers are exchanged, whatever of it reached the disk" do
    capture
    path = File.join(take["folder"], take["tracks"][1]["file"])
    sound = Loomshuttle::Formats::Wav::Reader.new(path).read
    states, before = [], File.binread(path)
    PowerCut.watch(recorder.takes) do |synced|
      next unless synced == path

      now = File.binread(path)
      head = before.index("data".b) + 8
      states.push(before, now, now[0, head] + before[head..], before[0, head] + now[head..])
      before = now
    end
    recorder.change_take(take: 1, markers: [{ "at" => 7, "name" => "A marker with quite another length than before" }])
    expect(states.size).to be >= 8
    states.each do |bytes|
      File.binwrite(File.join(@folder, "state.wav"), bytes)
      expect(Loomshuttle::Formats::Wav::Reader.new(File.join(@folder, "state.wav")).read).to eq(sound)
      expect(bytes[4, 4].unpack1("V") + 8).to be <= bytes.bytesize
      expect(Loomshuttle::Formats::Wav::Mend.frames_on_disk(File.join(@folder, "state.wav"))).to eq(sound.shape[0])
    end
  end

  it "leaves exports whole, as folders and as ZIP files, here and on another disk" do
    capture
    disk = File.join(@folder, "stick").tap { |path| FileUtils.mkdir_p(path) }
    watcher = PowerCut.watch(@folder)
    [["folder", nil], ["zip", nil], ["folder", disk], ["zip", disk]].each do |form, place|
      jobs.export(take, form: form, place: place, sheet: "%PDF-")
      work
      expect(jobs.all.first).to include("state" => "done")
    end
    expect_safe(watcher, ignore: %r{/takes/|recorder.json})
  end

  it "leaves what was delivered, the take that was made of it, and songs" do
    watcher = PowerCut.watch(@folder)
    deliveries = Loomshuttle::Web::Deliveries.new(@folder, jobs)
    id = deliveries.create
    sound = Loomshuttle::Audio::Pcm24.to_float32(SongFolder.noise(48_000))
    SongFolder.stem(@folder, "tone", SongFolder.noise(48_000), 1, 48_000)
    deliveries.add(id, "Fiddle.wav", File.open(File.join(@folder, "1.wav")))
    sent = File.join(@folder, "deliveries", id, "Fiddle.wav")
    expect(sound.bytesize).to be_positive
    jobs.bring_in(name: "Brought", rate: 48_000, project: "", items: [{ "title" => "Fiddle", "track" => 1, "lanes" => 1, "wide" => false, "offset" => 0, "files" => [sent] }])
    work
    recorder.shelf.adopt(folder: jobs.all.first.fetch("result"))
    jobs.song(name: "Ropewalk", rate: 48_000, stems: [{ "name" => "Fiddle", "role" => "Strings", "lanes" => 1, "wide" => false, "files" => [sent] }])
    work
    songs = Loomshuttle::Web::SongLibrary.new(@folder, on_change: -> {})
    songs.take_over(jobs.all.find { |job| job["kind"] == "song" })
    expect(take).to include("name" => "Brought")
    expect_safe(watcher, ignore: %r{#{Regexp.escape(@folder)}/1.wav|recorder.json})
  end
end
