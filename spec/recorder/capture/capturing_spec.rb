# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::Capturing, :folder do
  include_context "with a virtual capture"

  describe "look-back" do
    it "begins a capture in the past, sample for sample, and dates it so" do
      sent
      rig.run(3)
      recorder.capture_start(name: "Encore", back: 2)
      rig.run(1)
      done = recorder.capture_stop
      expect(done["frames"]).to be_within(2400).of(3 * 48_000)
      expect(samples(2)).to eq(lane(2)[-done["frames"]..])
      expect(Loomshuttle::Formats::Wav::Reader.new(path(2)).bext.time_reference).to be_within(2400).of((((20 * 60) + 30) * 60 * 48_000) - (2 * 48_000))
    end

    it "holds a minute at most, and no more memory than it may" do
      held = Loomshuttle::Recorder::LookBack.new(48_000, seconds: 1, bytes: 400_000)
      bytes = "\0".b * (2400 * 8 * 3)
      30.times { |at| held.add(Loomshuttle::Recorder::Batch.new(at * 2400, 2400, [[0, 8, bytes]], [])) }
      expect(held.status).to include("seconds" => 0.3, "bytes" => 6 * bytes.bytesize)
      expect(held.since(4800).map(&:position)).to eq([28 * 2400, 29 * 2400])
      long = Loomshuttle::Recorder::LookBack.new(48_000, seconds: 1)
      30.times { |at| long.add(Loomshuttle::Recorder::Batch.new(at * 2400, 2400, [[0, 8, bytes]], [])) }
      expect(long.status["seconds"]).to eq(1.0)
    end

    it "says what it holds, and refuses to go back further than it ever could" do
      rig.run(2)
      expect(recorder.status["look_back"]).to include("seconds" => be_within(0.1).of(1.95), "most_seconds" => 60)
      expect { recorder.capture_start(back: 61) }.to raise_error(Loomshuttle::Invalid, /0 to 60/)
    end
  end

  describe "a disk that falls behind" do
    let(:late) { Queue.new }

    before do
      rig.run(0.2)
      sent
      recorder.capture_start
      recorder.spool = late.method(:<<)
    end

    def catch_up
      recorder.handle(late.pop) until late.empty?
    end

    # @return [Thread] waiting for what has arrived to be written
    def waiting(&)
      Thread.new(&).tap { |thread| (thread.report_on_exception = false) || Tools.wait_until { thread.stop? } }
    end

    it "is not a silent desk, and cuts nothing off that arrived before the stop" do
      rig.run(3)
      expect(recorder.status).to include("clock" => true, "capture" => include("frames" => 0))
      stopping = waiting { recorder.capture_stop }
      catch_up
      expect(stopping.value["frames"]).to eq(3 * 48_000)
      expect(samples(1)).to eq(lane(1)[0...(3 * 48_000)])
    end

    it "leaves markers and rests where they were wished" do
      rig.run(1)
      recorder.mark(name: "Here")
      rig.run(1)
      resting = waiting { recorder.rest(tracks: [2], resting: true) }
      catch_up
      resting.join
      rig.run(0.5)
      catch_up
      done = recorder.capture_stop
      expect(done["markers"]).to match([include("name" => "Here", "at" => 48_000)])
      expect(done["tracks"][1]["rests"]).to eq([[96_000, 24_000]])
    end

    it "says so to whoever would stop a take that has just ended" do
      rig.run(1)
      stopping = waiting { recorder.capture_stop }
      recorder.tell_free(takes: 0)
      catch_up
      expect { stopping.value }.to raise_error(Loomshuttle::Invalid, /Nothing is being captured/)
      expect(recorder.status["last_problem"]).to include("Disk almost full")
    end
  end

  describe "rest" do
    it "keeps files aligned, takes no disk space, and tells where it was" do
      rig.run(0.2)
      sent
      recorder.capture_start
      rig.run(1)
      recorder.rest(tracks: [2], resting: true)
      rig.run(20)
      expect(recorder.status["capture"]["resting"]).to eq([2])
      recorder.rest(tracks: [2], resting: false)
      rig.run(1)
      done = recorder.capture_stop
      (from, length), = done["tracks"][1]["rests"]
      expect([from, length]).to eq([48_000, 20 * 48_000])
      wanted = lane(2)[0...done["frames"]].dup
      wanted[from...(from + length)] = 0
      expect(samples(2)).to eq(wanted)
      expect(samples(1)).to eq(lane(1)[0...done["frames"]])
      used = [1, 2].map { |track| File.stat(path(track)).blocks * 512 }
      expect(used[1]).to be < used[0] / 8
    end

    it "stays aligned over a kill in the middle of a rest" do
      rig.run(0.2)
      recorder.capture_start
      recorder.rest(tracks: [3], resting: true)
      rig.run(2)
      again = Loomshuttle::Recorder::Unit.new(sends: rig.desk.send_streams, returns: [], takes: recorder.takes, settings: File.join(@folder, "r.json"), now: -> { 0.0 }) { |_, _| nil }
      frames = again.recovered.first["frames"]
      expect([1, 3].map { |track| samples(track).size }).to eq([frames, frames])
      expect(manifest["tracks"][2]["rests"]).to eq([[0, frames]])
    end

    it "begins where it was asked for, also while the past is still being written" do
      sent
      rig.run(4)
      recorder.capture_start(back: 3)
      recorder.rest(tracks: [2], resting: true)
      rig.run(2)
      done = recorder.capture_stop
      from, = done["tracks"][1]["rests"].first
      expect(from).to be_within(2400).of(3 * 48_000)
      expect(samples(2)[0...from]).to eq(lane(2)[-done["frames"]..][0...from])
    end

    it "refuses tracks that are not captured" do
      rig.run(0.2)
      expect { recorder.rest(tracks: [1], resting: true) }.to raise_error(Loomshuttle::Invalid, /Nothing is being captured/)
      recorder.capture_start
      expect { recorder.rest(tracks: [9], resting: true) }.to raise_error(Loomshuttle::Invalid, /Track 9 is not/)
    end
  end

  describe "markers" do
    before { rig.run(0.2) && recorder.capture_start(name: "Set") }

    it "stand where they were set, also sections, in the manifest and beside the sound" do
      rig.run(0.5)
      recorder.mark(name: "First song", kind: "begin")
      rig.run(0.5)
      expect(recorder.mark).to eq("at" => 48_000, "frames" => 0, "name" => "Marker 2")
      rig.run(0.5)
      expect(recorder.mark(kind: "end")).to eq("at" => 24_000, "frames" => 48_000, "name" => "First song")
      recorder.capture_stop
      expect(manifest["markers"].map { |one| one.values_at("at", "frames") }).to eq([[24_000, 48_000], [48_000, 0]])
      expect(Dir.children(takes.last.first)).to include("Set markers.mid", "Set markers.csv")
    end

    # Within one batch both keys meet the same position.
    it "are kept where the take is stopped in the same moment" do
      rig.run(0.4)
      expect(recorder.mark(name: "Chorus")).to include("at" => 19_200)
      expect(recorder.capture_stop).to include("frames" => 19_200)
      expect(manifest["markers"]).to eq([{ "at" => 19_200, "frames" => 0, "name" => "Chorus" }])
      expect(Loomshuttle::Formats::Wav::Reader.new(path(1)).frames).to eq(19_200)
      expect(Tools.run("sndfile-info", path(1))).to include("Chorus")
    end

    it "can be changed while it is captured and afterwards, without touching a sample" do
      rig.run(0.5)
      recorder.change_take(take: 1, markers: [{ "at" => 2400, "name" => "Early" }])
      recorder.capture_stop
      before = samples(1)
      recorder.change_take(take: 1, markers: [{ "at" => 7200, "name" => "Later" }, { "at" => 0, "frames" => 4800, "name" => "Intro" }])
      expect(manifest["markers"].map { |one| one["name"] }).to eq(%w[Intro Later])
      expect(samples(1)).to eq(before)
      recorder.change_take(take: 1, markers: [])
      expect(Dir.glob(File.join(takes.last.first, "*markers*"))).to eq([])
    end

    it "are refused where they do not fit" do
      rig.run(0.1)
      expect { recorder.mark(kind: "end") }.to raise_error(Loomshuttle::Invalid, /No section was begun/)
      recorder.capture_stop
      { [{ "at" => 99_999_999, "name" => "x" }] => /behind the end/, [{ "at" => -1, "name" => "x" }] => /marker 1/, [{ "at" => 0, "name" => " " }] => /name/,
        "x" => /list/ }.each do |markers, why|
        expect { recorder.change_take(take: 1, markers: markers) }.to raise_error(Loomshuttle::Invalid, why)
      end
    end
  end

  it "captures 32-bit float that holds the same samples" do
    sent
    recorder.configure(tracks: recorder.status["tracks"], bits: 32)
    rig.run(0.2)
    recorder.capture_start
    rig.run(0.5)
    done = recorder.capture_stop
    expect(done["bits"]).to eq(32)
    expect(samples(3)).to eq(lane(3)[-24_000..])
  end

  describe "takes that are over" do
    before do
      rig.run(0.2)
      recorder.capture_start(frames: 24_000, name: "First")
      rig.run(0.7)
    end

    it "get words, and keep their files' names" do
      file = path(1)
      recorder.change_take(take: 1, name: " Evening ", notes: "Fiddle too low", colour: "woad")
      expect(manifest).to include("name" => "Evening", "notes" => "Fiddle too low", "colour" => "woad")
      expect(path(1)).to eq(file)
      expect { recorder.change_take(take: 1, name: "") }.to raise_error(Loomshuttle::Invalid, /needs a name/)
      expect { recorder.change_take(take: 7, name: "x") }.to raise_error(Loomshuttle::Invalid, /no take 7/)
    end

    it "get other names for their tracks, which exports have then" do
      file = path(2)
      recorder.change_take(take: 1, tracks: [{ "number" => 2, "name" => " 日本語 " }])
      expect(manifest["tracks"].map { |track| track["name"] }.first(3)).to eq(["Track 1", "日本語", "Track 3"])
      expect(path(2)).to eq(file)
      expect { recorder.change_take(take: 1, tracks: [{ "number" => 99, "name" => "x" }]) }.to raise_error(Loomshuttle::Invalid, /Take 1 has no track 99/)
      expect { recorder.change_take(take: 1, tracks: [{ "number" => 2, "name" => " " }]) }.to raise_error(Loomshuttle::Invalid, /a name of 1 to 60/)
      expect { recorder.change_take(take: 1, tracks: [{ "number" => 2, "name" => "Tu\0ba" }]) }.to raise_error(Loomshuttle::Invalid)
      expect(manifest["tracks"][1]["name"]).to eq("日本語")
    end

    it "go into a bin, come back out of it, and are gone when it is emptied; their numbers are not used again" do
      recorder.shelf.discard(take: 1)
      expect([takes, recorder.shelf.bin.map { |one| one["number"] }]).to eq([[], [1]])
      recorder.shelf.restore(number: 1)
      expect([takes.size, recorder.shelf.bin]).to eq([1, []])
      recorder.shelf.discard(take: 1)
      recorder.capture_start(frames: 4800)
      rig.run(0.3)
      expect(manifest["number"]).to eq(2)
      expect([recorder.shelf.empty_bin, recorder.shelf.bin]).to eq([{ "deleted" => 1 }, []])
      expect { recorder.shelf.restore(number: 1) }.to raise_error(Loomshuttle::Invalid, /no take 1 in the bin/)
    end

    it "cannot be thrown away while they are played" do
      recorder.play(take: 1, loop: true)
      expect { recorder.shelf.discard(take: 1) }.to raise_error(Loomshuttle::Invalid, /being played/)
    end
  end
end
