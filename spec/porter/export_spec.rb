# frozen_string_literal: true

RSpec.describe Loomshuttle::Porter::Export, :folder do
  let(:rig) { VirtualRig.new(home: @folder).patch_straight(4) }
  let(:jobs) { Loomshuttle::Web::Jobs.new(@folder) }
  let(:porter) { Loomshuttle::Porter::Server.new(home: @folder) }
  let(:take) do
    rig.run(0.2)
    rig.recorder.capture_start(name: "Set", frames: 96_000)
    rig.run(0.5)
    rig.recorder.mark(name: "Reel", kind: "begin")
    rig.run(1)
    rig.recorder.mark(kind: "end")
    rig.run(0.8)
    folder, manifest = Loomshuttle::Recorder::Manifest.all(rig.recorder.takes).first
    manifest.merge("folder" => folder)
  end

  def open_jobs = Loomshuttle::Porter::Job.open(File.join(@folder, "jobs"))
  def work = porter.work(open_jobs.first)
  def job = jobs.all.first
  def samples(path) = Loomshuttle::Formats::Wav::Reader.new(path).read

  it "packs a whole take with markers, patch sheet, manifest and checksums that sha256sum confirms" do
    jobs.export(take, form: "folder", sheet: "%PDF-")
    work
    expect(job).to include("state" => "done", "name" => "0001 Set")
    files = Dir.children(job["result"])
    expect(files).to match_array(take["tracks"].map { |track| track["file"] } + ["take.json", "markers.mid", "markers.csv", "patch sheet.pdf", "SHA256SUMS"])
    Dir.chdir(job["result"]) { expect(Tools.run("sha256sum", "-c", "--strict", "SHA256SUMS").lines.size).to eq(8) }
    take["tracks"].each { |track| expect(samples(File.join(job["result"], track["file"]))).to eq(samples(File.join(take["folder"], track["file"]))) }
    expect(job.values_at("done", "total").uniq).to eq([4 * 96_000 * 3])
  end

  describe "to a disk that was chosen" do
    let(:disk) { File.join(@folder, "usb stick").tap { |path| FileUtils.mkdir_p(path) } }

    it "lies there as a folder or a ZIP, beside what was there before, and nothing else does" do
      %w[folder folder zip].each { |form| jobs.export(take, form: form, place: disk) && work }
      expect(Dir.children(disk)).to contain_exactly("0001 Set", "0001 Set 2", "0001 Set.zip")
      expect(jobs.all.map { |one| [one["state"], one["result"]] }).to contain_exactly(["done", File.join(disk, "0001 Set")], ["done", File.join(disk, "0001 Set 2")],
                                                                                      ["done", File.join(disk, "0001 Set.zip")])
      Dir.chdir(File.join(disk, "0001 Set")) { expect(Tools.run("sha256sum", "-c", "--strict", "SHA256SUMS").lines.size).to eq(7) }
      expect(Tools.run("unzip", "-tq", File.join(disk, "0001 Set.zip"))).to include("No errors detected")
      jobs.all.each { |one| jobs.delete(one["id"]) }
      expect(Dir.children(disk).size).to eq(3)
    end

    it "may be read there by whoever may read the folder" do
      { 0o755 => %w[755 644], 0o700 => %w[700 600] }.each do |mode, (folder, file)|
        FileUtils.rm_rf(Dir.children(disk).map { |name| File.join(disk, name) })
        File.chmod(mode, disk)
        %w[folder zip].each { |form| jobs.export(take, form: form, place: disk) && work }
        rights = ->(name) { (File.stat(File.join(disk, name)).mode & 0o777).to_s(8) }
        expect([rights["0001 Set"], rights["0001 Set/take.json"], rights["0001 Set.zip"]]).to eq([folder, file, file])
      end
    end

    it "says so where the disk was pulled out, and leaves nothing half made where it is ended" do
      jobs.export(take, form: "folder", place: disk)
      FileUtils.rm_rf(disk)
      work
      expect(job).to include("state" => "failed", "error" => /usb stick is not there any more/)
      jobs.delete(job["id"])
      FileUtils.mkdir_p(disk)
      jobs.export(take, form: "zip", place: disk)
      jobs.cancel(job["id"])
      work
      expect([job["state"], Dir.children(disk)]).to eq(["cancelled", []])
    end
  end

  # Bit 11 of an entry says that its name is UTF-8 (APPNOTE.TXT 6.3.9 of the ZIP format, 4.4.4).
  it "calls everything as take and tracks are called by now, in letters of every script" do
    renamed = rig.recorder.change_take(take: take["number"], name: "Ночной сет", tracks: [{ "number" => 2, "name" => "日本語" }])
    jobs.export(take.merge(renamed), form: "zip")
    work
    expect(File.basename(job["result"])).to eq("0001 Ночной сет.zip")
    Zip::File.open(job["result"]) do |zip|
      expect(zip.map { |entry| File.basename(entry.name.dup.force_encoding("UTF-8")) }).to include("Ночной сет 0001 01 Track 1.wav", "Ночной сет 0001 02 日本語.wav")
      expect(zip.map { |entry| entry.gp_flags[11] }.uniq).to eq([1])
      manifest = JSON.parse(zip.find { |entry| entry.name.b.end_with?("/take.json") }.get_input_stream.read)
      expect(manifest["tracks"].map { |track| track["file"] }.first(2)).to eq(["Ночной сет 0001 01 Track 1.wav", "Ночной сет 0001 02 日本語.wav"])
    end
  end

  it "cuts a section out, with its own time, markers and length, of some tracks only" do
    jobs.export(take, form: "folder", tracks: [2, 3], from: 24_000, to: 72_000, part: "Reel")
    work
    expect(job["name"]).to eq("0001 Set Reel")
    path = File.join(job["result"], take["tracks"][1]["file"])
    whole = Loomshuttle::Formats::Wav::Reader.new(File.join(take["folder"], take["tracks"][1]["file"]))
    expect(samples(path)).to eq(whole.read(24_000, 48_000))
    expect(Loomshuttle::Formats::Wav::Reader.new(path).bext.time_reference).to eq(whole.bext.time_reference + 24_000)
    kept = JSON.parse(File.read(File.join(job["result"], "take.json")))
    expect(kept).to include("frames" => 48_000, "markers" => [{ "at" => 0, "frames" => 48_000, "name" => "Reel" }])
    expect(Dir.children(job["result"]).grep(/wav\z/).size).to eq(2)
    expect(Tools.run("sndfile-info", path)).to include("labl : 1 : Reel")
  end

  it "tells of a part what was missing in it, in its own time" do
    path = File.join(take["folder"], "take.json")
    File.write(path, JSON.generate(take.merge("note" => "Something happened after 1.0 s.", "breaks" => [{ "at" => 10, "seconds" => 1.0 }, { "at" => 48_000, "seconds" => 2.5 }],
                                              "gaps" => [{ "at" => 20_000, "frames" => 8_000, "lanes" => [1, 8] }, { "at" => 90_000, "frames" => 48, "lanes" => [1, 8] }])))
    jobs.export(take, form: "folder", from: 24_000, to: 72_000)
    work
    expect(JSON.parse(File.read(File.join(job["result"], "take.json"))))
      .to include("note" => "Of the whole take: Something happened after 1.0 s.", "breaks" => [{ "at" => 24_000, "seconds" => 2.5 }],
                  "gaps" => [{ "at" => 0, "frames" => 4_000, "lanes" => [1, 8] }])
  end

  it "keeps a marker at the very end of the take, and leaves one at the end of a part to what follows" do
    take
    rig.recorder.change_take(take: 1, markers: [{ "at" => 96_000, "name" => "End" }, { "at" => 48_000, "name" => "Half" }])
    whole, half = [96_000, 48_000].map { |to| Loomshuttle::Porter::Cut.new(take["folder"], to: to).markers.map(&:name) }
    expect([whole, half]).to eq([%w[Half End], []])
  end

  it "makes a ZIP that unzip tests, and clears away what it was made from" do
    jobs.export(take, form: "zip")
    work
    expect(Tools.run("unzip", "-t", job["result"])).to include("No errors detected")
    expect(Tools.run("unzip", "-l", job["result"])).to include("0001 Set/SHA256SUMS", "0001 Set/#{take['tracks'][0]['file']}")
    expect(Dir.exist?(File.join(File.dirname(job["result"]), "work"))).to be(false)
    jobs.delete(job["id"])
    expect([jobs.all, Dir.children(File.join(@folder, "jobs"))]).to eq([[], []])
  end

  it "has nothing under a name from before, when a track is called otherwise while it waits" do
    jobs.export(take, form: "folder")
    stop = -> { Dir.glob(File.join(open_jobs.first.work, "**", "*01 Track 1.wav")).any? }
    room = Loomshuttle::Porter::Room.new(@folder, rig.recorder.takes)
    expect { described_class.new(open_jobs.first, stopped: stop, room: room).run }.to raise_error(Loomshuttle::Porter::Job::Stopped)
    rig.recorder.change_take(take: 1, tracks: [{ "number" => 1, "name" => "Tuba" }])
    work
    expect(Dir.children(job["result"]).grep(/wav\z/)).to contain_exactly("Set 0001 01 Tuba.wav", *(2..4).map { |n| "Set 0001 0#{n} Track #{n}.wav" })
    Dir.chdir(job["result"]) { expect(Tools.run("sha256sum", "-c", "--strict", "SHA256SUMS").lines.size).to eq(Dir.children(".").size - 1) }
  end

  it "goes on where it was after it was stopped in the middle, and makes nothing twice" do
    jobs.export(take, form: "folder")
    calls = 0
    stop = -> { (calls += 1) > 2 }
    expect { described_class.new(open_jobs.first, stopped: stop, room: Loomshuttle::Porter::Room.new(@folder, rig.recorder.takes)).run }.to raise_error(Loomshuttle::Porter::Job::Stopped)
    first = open_jobs.first.path("work", "0001 Set", take["tracks"][0]["file"])
    made = File.stat(first).ino
    work
    expect(job).to include("state" => "done")
    expect(File.stat(File.join(job["result"], take["tracks"][0]["file"])).ino).to eq(made)
    Dir.chdir(job["result"]) { Tools.run("sha256sum", "-c", "--strict", "SHA256SUMS") }
  end

  it "ends when nobody wants it any more, and says what went wrong" do
    jobs.cancel(jobs.export(take, form: "zip")["id"])
    work
    expect(job["state"]).to eq("cancelled")
    jobs.export(take, form: "zip", from: 5, to: 999_999_999)
    work
    expect(job).to include("state" => "failed", "error" => "The range is not inside the take.")
    FileUtils.rm_rf(jobs.export(take, form: "zip")["take"])
    work
    expect(job["error"]).to include("There is no take in")
    expect { jobs.find("x") }.to raise_error(Loomshuttle::Invalid, /no longer exists/)
  end

  it "keeps a job that is under way" do
    id = jobs.export(take, form: "zip")["id"]
    expect { jobs.delete(id) }.to raise_error(Loomshuttle::Invalid, /still running/)
  end
end
