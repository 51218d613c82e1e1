# frozen_string_literal: true

# What a recorder that was killed leaves behind, in its own folder and in that of the second copies.
RSpec.describe Loomshuttle::Recorder::Recovery, :folder do
  include_context "with a virtual capture"

  let(:second) { File.join(@folder, "second").tap { |path| FileUtils.mkdir_p(path) } }

  def again(**options)
    Loomshuttle::Recorder::Unit.new(sends: rig.desk.send_streams, returns: [], takes: recorder.takes, settings: File.join(@folder, "recorder.json"), now: -> { 0.0 }, **options) { |_, _| nil }
  end

  def cut_off(seconds = 1)
    rig.run(0.2)
    recorder.capture_start(name: "Cut")
    rig.run(seconds)
  end

  it "keeps a marker that was set a moment before, in the files too" do
    cut_off(0.1)
    recorder.mark(name: "Last words")
    rig.run(0.1)
    expect(again.recovered.first).to include("frames" => 9600, "markers" => [{ "at" => 4800, "frames" => 0, "name" => "Last words" }])
    expect(Tools.run("sndfile-info", path(1))).to match(/Frames\s*: 9600\b/).and include("Last words")
    expect(File.read(Dir[File.join(takes.last.first, "* markers.csv")].first)).to include("Last words")
  end

  it "closes the second copy as well, in the background, and finds a take that is only there" do
    rig
    recorder.configure(tracks: recorder.status["tracks"], mirror: second)
    cut_off
    Tools.wait_until { Loomshuttle::Recorder::Manifest.all(second).any? && File.size(Dir[File.join(second, "*", "*.wav")].first) > 100_000 }
    FileUtils.rm_rf(takes.first.first)
    unit = again
    nil while unit.look_after_recovered
    expect(unit.recovered).to match([include("number" => 1, "note" => /were recovered/)])
    folder, told = Loomshuttle::Recorder::Manifest.all(second).first
    expect(told).to include("state" => "recovered", "frames" => be_positive)
    expect(Tools.run("sndfile-info", File.join(folder, told["tracks"][0]["file"]))).to match(/Frames\s*: #{told['frames']}\b/)
    expect(unit.shelf.find(1).first).to start_with(second)
  end

  it "leaves out a file that nothing had been written to, as after a power cut" do
    cut_off
    File.truncate(path(2), 0)
    mended = again.recovered.first
    expect(mended).to include("frames" => 48_000, "note" => /1.0 s of 3 tracks were recovered. No sound was on the disk for Track 2./)
    expect(mended["tracks"].map { |track| track["number"] }).to eq([1, 3, 4])
  end

  it "puts a take aside that ended the recorder while it was mended, and mends the others" do
    cut_off(0.5)
    recorder.capture_stop
    cut_off(0.5)
    FileUtils.touch(File.join(takes.last.first, described_class::MENDING))
    unit = again
    expect(unit.recovered).to eq([])
    expect(takes.map { |_, one| one.values_at("number", "state") }).to eq([[1, "complete"], [2, "unreadable"]])
    expect(takes.last.last["note"]).to include("Closing it ended the recorder")
    expect { unit.shelf.find(2) }.to raise_error(Loomshuttle::Invalid, /cannot be read/)
    unit.shelf.discard(take: 2)
    expect(unit.shelf.bin.map { |one| one["number"] }).to eq([2])
  end

  it "tries nothing when it is cautious" do
    cut_off(0.5)
    expect(again(cautious: true).recovered).to eq([])
    expect(manifest["state"]).to eq("unreadable")
  end

  it "goes on beside a take that surprises it" do
    cut_off(0.5)
    allow(Loomshuttle::Formats::Wav::Mend).to receive(:frames_on_disk).and_raise(NoMethodError, "odd")
    unit = nil
    expect { unit = again }.to output(/odd/).to_stderr
    expect([unit.recovered, manifest["state"], manifest["note"]]).to match([[], "unreadable", /could not be recovered: odd/])
  end

  describe "tracks of different lengths" do
    # As after a power cut: of what each file had, only so much reached the disk.
    it "keeps each one's own, fills the shorter ones up with silence, and says which and from when" do
      heard = sent
      cut_off(2)
      at = Loomshuttle::Formats::Wav::Mend.send(:layout, path(2)).first
      File.truncate(path(2), at) # its head alone
      File.truncate(path(3), at + (3 * 24_000) + 1)
      mended = again.recovered.first
      expect(mended).to include("frames" => 96_000, "note" => /Track 2: silence added from 0.00 s to the end. Track 3: silence added from 0.50 s to the end./)
      expect(mended["tracks"].map { |track| track["silent_from"] }).to eq([nil, 0, 24_000, nil])
      expect(mended["gaps"]).to contain_exactly({ "at" => 0, "frames" => 96_000, "lanes" => [2, 2] }, { "at" => 24_000, "frames" => 72_000, "lanes" => [3, 3] })
      expect(mended["gaps_total"]).to eq("count" => 2, "frames" => 168_000, "unlisted" => 0)
      live = Loomshuttle::Audio::Pcm24.from_network(heard.join, 8)[9600...105_600, true] # the take begins after 0.2 s
      [live[true, 0], 0, live[0...24_000, 2], live[true, 3]].each.with_index(1) do |kept, track|
        whole = Numo::Int32.zeros(96_000)
        kept.is_a?(Numo::NArray) ? whole[0...kept.size] = kept : nil
        expect(samples(track)).to eq(whole), "track #{track}"
        expect(Tools.run("sndfile-info", path(track))).to match(/Frames\s*: 96000\b/)
      end
    end

    it "says the same when it is killed once more before the levels are measured" do
      cut_off(1)
      File.truncate(path(2), Loomshuttle::Formats::Wav::Mend.send(:layout, path(2)).first)
      once = again.recovered.first
      expect(again.recovered.first).to eq(once)
    end

    it "takes no marker for sound where the recorder was killed while it closed the take" do
      rig.run(0.2)
      recorder.capture_start(name: "Cut")
      rig.run(1)
      recorder.mark(name: "Near the end")
      rig.run(0.1)
      open = File.read(File.join(takes.last.first, "take.json"))
      before = (1..4).map { |track| File.binread(path(track)) }
      recorder.capture_stop
      File.write(path(2), before[1] + File.binread(path(2)).byteslice(before[1].bytesize..), mode: "wb") # the head not yet
      File.write(path(3), before[2], mode: "wb")
      File.write(File.join(takes.last.first, "take.json"), open)
      expect(again.recovered.first).to include("frames" => 52_800, "gaps" => [])
      expect((1..4).map do |track|
        Tools.run("sndfile-info", path(track)).then do |words|
          [words[/Frames\s*: (\d+)/, 1], words.scan("Near the end").size]
        end
      end.uniq).to eq([["52800", 1]])
    end
  end

  describe "without take.json" do
    let(:tracks) do
      [{ "number" => 3, "name" => "Fiddle & Voice", "inputs" => [1], "outputs" => [1], "armed" => true },
       { "number" => 12, "name" => "Überkeys", "inputs" => [3, 4], "outputs" => [3, 4], "armed" => true }]
    end

    def capture
      rig.run(0.2)
      recorder.configure(tracks: tracks, project: "Quay, late")
      recorder.capture_start(name: "Second set")
      rig.run(1)
      manifest
    end

    def lose(how)
      file = File.join(takes.last.first, "take.json")
      how ? File.binwrite(file, how) : File.delete(file)
    end

    [nil, "", "\0" * 3000].each do |how|
      it "rebuilds it from the files' own chunks where it is #{how.nil? ? 'missing' : "#{how.size} bytes of nothing"}" do
        was = capture
        lose(how)
        mended = again.recovered.first
        expect(mended).to include(was.slice("id", "number", "name", "rate", "bits", "project"), "frames" => 48_000)
        expect(mended["note"]).to match(/take.json was missing; it was rebuilt from the files. .* 1.0 s of 2 tracks/)
        expect(mended["tracks"].map { |track| track.slice("number", "name", "inputs", "file") }).to eq(was["tracks"].map { |track|
          track.slice("number", "name", "inputs", "file")
        })
        expect(Time.iso8601(mended["started_at"]).strftime("%F %T")).to eq("2026-06-13 20:30:00")
        expect(again.shelf.find(1).last["state"]).to eq("recovered")
      end
    end

    it "leaves a folder alone that has nothing readable in it, and a manifest that is damaged otherwise" do
      capture
      lose("{\"state\": \"capturing\"")
      expect([again.recovered, manifest["state"]]).to eq([[], "unreadable"])
      lose(nil)
      Dir.glob("*.wav", base: takes.last.first).each { |name| File.write(File.join(takes.last.first, name), "no sound") }
      expect([again.recovered, manifest["state"]]).to eq([[], "unreadable"])
    end
  end

  describe "the levels of a recovered take" do
    it "are measured afterwards: closing reads no sound, whatever its length, and the next take begins before" do
      cut_off(1)
      allow(Loomshuttle::Formats::Wav::Reader).to receive(:new).and_raise("sound was read")
      unit = again
      expect(unit.recovered).to match([include("state" => "recovered", "frames" => 48_000)])
      expect(unit.status).to include("recovering" => nil)
      expect(manifest).to include("unmeasured" => true)
    end

    it "are right in the end, and progress is shown until then" do
      cut_off(4.5)
      (1..4).each { |track| File.open(path(track), "ab") { |file| file.write([4_000_000].pack("V")[0, 3]) } } # behind what the manifest knows
      unit = again
      told = []
      told << unit.status["recovering"] while unit.look_after_recovered
      done = told.compact
      expect(done.map { |one| one["done"] }).to eq(done.map { |one| one["done"] }.sort).and include(be_between(0.1, 0.9))
      expect(done.first).to include("number" => 1, "name" => "Cut")
      expect(unit.status["recovering"]).to be_nil
      expect(manifest.key?("unmeasured")).to be(false)
      expect(manifest["tracks"].map { |track| track["peak_dbfs"] }).to all(be_within(0.01).of(20 * Math.log10(4_000_000 / 8_388_608.0)))
      expect(Dir.children(takes.last.first).grep(/\A\./)).to eq([])
    end

    it "stay as they were where measuring them ended the recorder" do
      cut_off(1)
      unit = again
      FileUtils.touch(File.join(takes.last.first, Loomshuttle::Recorder::Recheck::MEASURING))
      before = manifest["tracks"]
      expect(Loomshuttle::Formats::Wav::Reader).not_to receive(:new) # rubocop:disable RSpec/MessageSpies
      nil while unit.look_after_recovered
      expect(manifest).to include("state" => "recovered", "tracks" => before)
      expect(manifest.key?("unmeasured")).to be(false)
    end

    it "leave a take alone that was discarded or renamed in between" do
      cut_off(1)
      unit = again
      2.times { unit.look_after_recovered }
      unit.change_take(take: 1, name: "Renamed")
      nil while unit.look_after_recovered
      expect(manifest).to include("name" => "Renamed", "state" => "recovered")
      later = again
      later.shelf.discard(take: 1)
      nil while later.look_after_recovered
      expect(later.status["recovering"]).to be_nil
    end
  end
end
