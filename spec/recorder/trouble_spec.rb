# frozen_string_literal: true

# What a take says and holds when disks, copies, packets or the desk fail. The same with real processes: processes/outcomes_spec.rb
RSpec.describe "A virtual take in trouble", :folder do
  include_context "with a virtual capture"

  describe "the disk" do
    before { rig.run(0.2) }

    # Four tracks of 24 bits at 48 kHz write 576 000 bytes a second.
    it "is told to be nearly full, and the take is closed before it is" do
      recorder.tell_free(takes: (64 << 20) + (576_000 * 100))
      recorder.capture_start
      rig.run(0.2)
      expect(recorder.status["capture"]).to include("disk_seconds" => 100, "warning" => "The disk will be full in 1 min 40 s.")
      recorder.tell_free(takes: (64 << 20) + (576_000 * 9))
      rig.run(0.2)
      expect(recorder.status).to include("capture" => nil, "last_problem" => /Disk almost full/)
      expect(manifest).to include("state" => "ended early", "frames" => 9_600)
      expect(samples(1).size).to eq(9_600)
    end

    it "refuses to begin on what is left of a full one, and says what to do" do
      recorder.tell_free(takes: (64 << 20) + (576_000 * 12)) # the last take was closed at less than ten seconds, and what it had spared came free
      expect { recorder.capture_start }.to raise_error(Loomshuttle::Invalid, /70 MiB are free, of which 64 MiB stay free. Make room, or choose fewer tracks/)
      expect(takes).to eq([])
      recorder.arm(armed: false, numbers: [1, 2])
      expect(recorder.capture_start).to include("number" => 1)
    end

    # Some files of a batch were written, one in part, and the others not at all.
    it "may be full in the middle of a batch: all files end where all of them are whole" do
      heard = sent
      recorder.capture_start
      rig.run(0.5)
      recorder.mark(name: "Before")
      allow_any_instance_of(Loomshuttle::Formats::Wav::Writer).to receive(:write).and_wrap_original do |write, bytes| # rubocop:disable RSpec/AnyInstance
        next write.call(bytes) if write.receiver.path.match?(/0[12] Track/)

        write.receiver.instance_variable_get(:@file).write(bytes[0, 1001])
        raise Errno::ENOSPC
      end
      rig.run(0.2)
      expect(manifest).to include("state" => "ended early", "frames" => 24_000, "note" => /No space left/)
      (1..4).each do |track|
        expect(samples(track)).to eq(Loomshuttle::Audio::Pcm24.from_network(heard.join, 8)[0...24_000, track - 1]), "track #{track}"
        expect(Tools.run("sndfile-info", path(track))).to match(/Frames\s*: 24000\b/).and include("Before")
      end
    end

    it "lasts longer while tracks rest" do
      recorder.tell_free(takes: (64 << 20) + (576_000 * 100))
      recorder.capture_start
      recorder.rest(tracks: [1, 2, 3], resting: true)
      expect(recorder.status["capture"]["disk_seconds"]).to eq(400)
    end
  end

  describe "a mirror" do
    let(:second) { File.join(@folder, "second").tap { |path| FileUtils.mkdir_p(path) } }

    # Copies are written by threads of their own, which a busy machine holds up.
    def run_and_wait(seconds)
      rig.run(seconds)
      Tools.wait_until(60, "both copies to be written") { [recorder.takes, second].map { |root| written(root) }.min >= recorder.status["capture"]["frames"] }
    end

    # @return [Integer] frames in every file of the newest take there
    def written(root) = Dir[File.join(Dir[File.join(root, "0*")].max, "*.wav")].map { |file| Loomshuttle::Formats::Wav::Mend.frames_on_disk(file) }.min

    def go_on_until
      Tools.wait_until(60, "a copy to be given up") do
        rig.run(0.05)
        yield
      end
    end

    before do
      rig.run(0.2)
      recorder.configure(tracks: recorder.status["tracks"], mirror: second)
    end

    it "is the same take in a second folder" do
      recorder.capture_start(name: "Both")
      run_and_wait(0.5)
      recorder.capture_stop
      copy = File.join(second, File.basename(takes.last.first))
      expect(Dir.children(copy).sort).to eq(Dir.children(takes.last.first).sort)
      expect(File.binread(path(1, copy))).to eq(File.binread(path(1)))
    end

    it "goes into the bin with the take and comes out with it, also when the mirror is elsewhere by then" do
      recorder.capture_start(name: "Both")
      rig.run(0.2)
      recorder.capture_stop
      recorder.capture_start(name: "Another")
      rig.run(0.2)
      recorder.capture_stop
      recorder.configure(tracks: recorder.status["tracks"], mirror: File.join(@folder, "third"))
      there = -> { [recorder.takes, second].map { |root| Loomshuttle::Recorder::Manifest.all(root).map { |_, take| take["number"] } } }
      recorder.shelf.discard(take: 1)
      expect([there.call, recorder.shelf.bin.map { |take| take["number"] }]).to eq([[[2], [2]], [1]])
      recorder.shelf.restore(number: 1)
      expect([there.call, recorder.shelf.bin]).to eq([[[1, 2], [1, 2]], []])
      recorder.shelf.discard(take: 1)
      expect([recorder.shelf.empty_bin, Dir.children(File.join(second, "bin"))]).to eq([{ "deleted" => 1 }, []])
    end

    it "may fail without harm: the take goes on and says so" do
      recorder.capture_start(name: "One")
      run_and_wait(0.5)
      allow_any_instance_of(Loomshuttle::Recorder::TakeFolder).to receive(:write).and_wrap_original do |write, *arguments| # rubocop:disable RSpec/AnyInstance
        raise Errno::EIO if write.receiver.path.start_with?(second)

        write.call(*arguments)
      end
      rig.run(0.5)
      go_on_until { recorder.status["capture"]["warning"] }
      expect(recorder.status["capture"]["warning"]).to match(/mirror in .*second stopped after 0.[345] s: .*Input.output error/)
      recorder.capture_stop
      expect(manifest).to include("state" => "complete", "frames" => be >= 48_000, "note" => /mirror .* stopped after/)
      expect(samples(1).size).to eq(manifest["frames"])
    end

    # What is still behind when the take is ended.
    it "is told of also when only the last piece fails" do
      recorder.capture_start(name: "End")
      run_and_wait(0.5)
      held = Queue.new
      allow_any_instance_of(Loomshuttle::Recorder::TakeFolder).to receive(:write).and_wrap_original do |write, *arguments| # rubocop:disable RSpec/AnyInstance
        next write.call(*arguments) unless write.receiver.path.start_with?(second)

        held.pop
        raise Errno::EIO
      end
      rig.run(0.2)
      held.close
      expect(recorder.capture_stop).to include("state" => "complete", "frames" => 33_600, "note" => /second stopped after 0.[345] s: Input.output error/)
      copy = Loomshuttle::Recorder::Manifest.all(second).last.last
      expect(copy).to include("state" => "ended early", "frames" => be_between(14_400, 24_000), "note" => manifest["note"])
    end

    it "ends early when the last piece of both fails, and says so" do
      recorder.capture_start(name: "End")
      run_and_wait(0.5)
      held = Queue.new
      allow_any_instance_of(Loomshuttle::Recorder::TakeFolder).to receive(:write) do # rubocop:disable RSpec/AnyInstance
        held.pop
        raise Errno::EIO
      end
      rig.run(0.2)
      held.close
      expect(recorder.capture_stop).to include("state" => "ended early", "note" => /ended early: Input.output error/)
      expect(recorder.status["last_problem"]).to include("ended early")
    end

    # As a network disk does that is gone: it neither writes nor fails.
    it "may stall for good: the first copy has everything, and the mirror is given up" do
      stub_const("Loomshuttle::Recorder::PacedFolder::MOST", 10)
      stub_const("Loomshuttle::Recorder::PacedFolder::STALLED", 1.5)
      recorder.capture_start(name: "One")
      run_and_wait(0.5)
      stuck = Queue.new
      allow_any_instance_of(Loomshuttle::Recorder::TakeFolder).to receive(:write).and_wrap_original do |write, *arguments| # rubocop:disable RSpec/AnyInstance
        stuck.pop if write.receiver.path.start_with?(second)
        write.call(*arguments)
      end
      go_on_until { recorder.status["capture"]["warning"] }
      rig.run(0.2)
      expect(recorder.capture_stop).to include("state" => "complete", "note" => /second stopped after 0.[456] s: .*nothing was written for/)
      expect(samples(1).size).to eq(manifest["frames"])
    ensure
      stuck&.close
    end

    it "takes over when the first copy fails, and ends the take only when both have" do
      recorder.capture_start(name: "Both")
      run_and_wait(0.5)
      broken = [recorder.takes]
      allow_any_instance_of(Loomshuttle::Recorder::TakeFolder).to receive(:write).and_wrap_original do |write, *arguments| # rubocop:disable RSpec/AnyInstance
        raise Errno::EIO if broken.include?(File.dirname(write.receiver.path))

        write.call(*arguments)
      end
      go_on_until { recorder.status["capture"]["warning"] }
      expect(recorder.status["capture"]).to include("disk_seconds" => nil, "warning" => /takes stopped after 0.[345] s: .* The take goes on in .*second/)
      expect(manifest).to include("state" => "ended early", "frames" => be_between(14_400, 24_000))
      expect(samples(1).size).to eq(manifest["frames"])
      rig.run(1)
      Tools.wait_until { Loomshuttle::Recorder::Manifest.all(second).last.last["frames"] > 24_000 }
      broken << second
      go_on_until { recorder.status["capture"].nil? }
      expect(recorder.status).to include("capture" => nil, "last_problem" => /ended early: .* stopped after 0.[345] s/)
      there = Loomshuttle::Recorder::Manifest.all(second).last.last
      expect(there).to include("state" => "ended early", "frames" => be > 24_000)
      expect((1..4).map { |track| Loomshuttle::Formats::Wav::Reader.new(path(track, Loomshuttle::Recorder::Manifest.all(second).last.first)).frames }).to eq([there["frames"]] * 4)
    end

    it "takes over before the disk of the first copy is full, and the take ends only before its own is" do
      room = (64 << 20) + (576_000 * 100)
      recorder.tell_free(takes: room, mirror: room * 2)
      recorder.capture_start(name: "Both")
      run_and_wait(0.5)
      expect(recorder.status["capture"]).to include("disk_seconds" => 100, "warning" => "The disk will be full in 1 min 40 s.")
      recorder.tell_free(takes: 64 << 20, mirror: room)
      rig.run(0.5)
      words = /takes stopped after 0.5 s: its disk is full. The take goes on in .*second/
      expect(recorder.status["capture"]).to include("disk_seconds" => 100, "warning" => /\AThe mirror's disk will be full in 1 min 40 s. The copy in .*#{words}/)
      expect(manifest).to include("state" => "ended early", "frames" => 24_000, "note" => words)
      expect(samples(1).size).to eq(24_000)
      recorder.tell_free(takes: room, mirror: 64 << 20)
      rig.run(0.5)
      expect(recorder.status).to include("capture" => nil, "last_problem" => /Disk almost full: take 1 was ended safely.*#{words}/)
      expect(Loomshuttle::Recorder::Manifest.all(second).last.last).to include("state" => "ended early", "frames" => 48_000)
    end

    it "is given up whole before its disk is full" do
      recorder.tell_free(takes: 1 << 40, mirror: (64 << 20) + (576_000 * 11))
      recorder.capture_start(name: "Both")
      run_and_wait(0.5)
      recorder.tell_free(takes: 1 << 40, mirror: (64 << 20) + (576_000 * 9))
      rig.run(0.5)
      expect(recorder.capture_stop).to include("state" => "complete", "frames" => 48_000, "note" => /second stopped after 0.5 s: its disk is full.\z/)
      copy, told = Loomshuttle::Recorder::Manifest.all(second).last
      expect(told).to include("state" => "ended early", "frames" => 24_000)
      expect(Loomshuttle::Formats::Wav::Reader.new(path(1, copy)).read[true, 0]).to eq(samples(1)[0...24_000])
    end

    it "is given up at once if it is not a folder" do
      recorder.configure(tracks: recorder.status["tracks"], mirror: File.join(@folder, "file"))
      File.write(File.join(@folder, "file"), "no folder")
      recorder.capture_start
      rig.run(0.2)
      expect(recorder.capture_stop).to include("state" => "complete", "note" => /stopped after 0.0 s/)
    end
  end

  # 5 % of the packets, in bursts of 5 to 40 ms, as a bad network loses them.
  it "tells the truth about packets that were lost in bursts: silence of that length at that place, and nothing else" do
    rig.run(0.2)
    random = Random.new(17)
    lost, sent, bursting = [], [], 0
    rig.disturb = lambda do |stream, bytes|
      next [bytes] unless stream.zero?

      packet = Loomshuttle::Formats::Rtp.unpack(bytes)
      sent << packet.payload
      bursting = random.rand(5..40) if bursting.zero? && random.rand < 0.0024
      next [bytes] unless bursting.positive?

      bursting -= 1
      lost << (sent.size - 1)
      []
    end
    recorder.capture_start
    rig.run(6)
    rig.disturb = nil
    rig.run(0.1)
    done = recorder.capture_stop
    wanted = Loomshuttle::Audio::Pcm24.from_network(sent.join, 8)[true, 1].dup
    lost.each { |nth| wanted[(nth * 48)...((nth + 1) * 48)] = 0 }
    frames = [done["frames"], wanted.size].min
    expect(lost.size).to be_between(100, 600)
    expect(samples(2)[0...frames]).to eq(wanted[0...frames])
    told = done["gaps"].select { |gap| gap["lanes"].first == 1 }.flat_map { |gap| ((gap["at"] / 48)...((gap["at"] + gap["frames"]) / 48)).to_a }
    expect(told).to eq(lost.select { |nth| nth * 48 < done["frames"] })
  end

  describe "a desk that starts again" do
    before { rig.run(0.2) }

    # Its packets stay away for a while; then they come with another source and other times.
    def starts_anew(seconds)
      rig.disturb = ->(_, _) { [] }
      rig.run(seconds)
      rig.disturb = lambda do |_, bytes|
        packet = Loomshuttle::Formats::Rtp.unpack(bytes)
        [Loomshuttle::Formats::Rtp.pack(sequence: packet.sequence, timestamp: packet.timestamp + (1 << 30), source: packet.source + 99, payload: packet.payload)]
      end
    end

    it "is told with its place and its length, during the take and afterwards" do
      recorder.capture_start
      rig.run(1)
      starts_anew(2.5)
      rig.run(1)
      expect(recorder.status["capture"]["warning"]).to eq("Gap of 2.5 s at 1.0 s: the desk restarted.")
      done = recorder.capture_stop
      expect(done).to include("state" => "complete", "breaks" => [{ "at" => 48_000, "seconds" => 2.5 }], "note" => /Gap of 2.5 s at 1.0 s: the desk restarted/)
      expect(samples(1).size).to eq(done["frames"])
    end

    it "is not trouble of a take that begins afterwards" do
      rig.run(1)
      starts_anew(1)
      rig.run(0.5)
      recorder.capture_start
      rig.run(0.5)
      expect(recorder.capture_stop).to include("breaks" => [], "note" => nil)
    end

    it "is still told when the recorder is killed later" do
      recorder.capture_start
      rig.run(1)
      starts_anew(1)
      rig.run(1)
      expect(Loomshuttle::Recorder::Recovery.run(recorder.takes).first["note"]).to match(/were recovered. Gap of 1.0 s at 1.0 s: the desk restarted/)
      expect(Dir.children(takes.last.first)).not_to include(".spare")
    end
  end
end
