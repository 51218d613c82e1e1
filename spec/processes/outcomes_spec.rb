# frozen_string_literal: true

# What becomes of a take when something around it goes wrong: a recorder as a process, on disks that only it sees, hearing a sender
# whose samples tell the millisecond they were sent in.
RSpec.describe "A take in trouble", :folder do
  let(:port) { Tools.free_udp_ports }
  let(:sender) { CountingSender.new([port]) { recorder.call("status")&.fetch("position")&.div(48) } }
  let(:recorder) { RunningRecorder.new(@folder).on_card(port) }
  let(:takes) { File.join(@folder, "takes") }
  let(:second) { File.join(@folder, "second").tap { |path| FileUtils.mkdir_p(path) } }

  before do
    sender # finds its ports
  end

  after do
    sender.stop
    recorder.stop
  end

  # @param disks [Hash{String=>Integer}] folders and MiB
  def begin_capture(disks = {}, mirror: nil)
    recorder.start(disks)
    sender.start
    recorder.call("configure", tracks: (1..8).map { |n| { number: n, name: "Lane #{n}", inputs: [n], outputs: [], armed: true } }, mirror: mirror)
    Tools.wait_until(60, "a clock") { recorder.call("capture.start", name: "Trouble")["id"] }
  end

  def captured(seconds) = Tools.wait_until(120, "#{seconds} s") { recorder.call("status").dig("capture", "frames").to_i > seconds * 48_000 }
  def warned(words) = Tools.wait_until(60, "the warning") { recorder.call("status").dig("capture", "warning") =~ words }

  # @return [Numo::Int32] samples of a lane, after a look by another program
  def samples(folder, manifest, lane)
    path = File.join(folder, manifest["tracks"][lane - 1]["file"])
    expect(Tools.run("sndfile-info", path)).to match(/Frames\s*: #{manifest['frames']}\b/)
    Loomshuttle::Formats::Wav::Reader.new(path).read[true, 0]
  end

  # Every track whole to the same end, each millisecond the next one.
  def expect_whole(folder, manifest)
    (1..8).each do |lane|
      all = samples(folder, manifest, lane)
      expect(all.size).to eq(manifest["frames"])
      expect((all - all[0]).to_a).to eq(((Numo::Int32.new(all.size).seq + first_part(all)) / 48).to_a)
    end
    expect(Dir.children(folder)).not_to include(".spare")
  end

  # How many samples of its first millisecond are not in it: batches begin anywhere.
  def first_part(all) = 48 - all.to_a.take_while { |value| value == all[0] }.size

  # Just after the recorder has looked how full the disk is, as it does every two seconds: so it does not foresee the end, but meets it.
  def fill(folder)
    looked = -> { recorder.call("status").dig("capture", "disk_seconds") }
    before = looked.call
    Tools.wait_until(60, "a look at the disk") { looked.call != before }
    File.open(File.join(recorder.seen(folder), "somebody else's"), "wb") { |file| Tools.take_all_room(file) }
  end

  it "is closed whole before the disk is full; the next one is refused" do
    begin_capture({ takes => 64 + 18 })
    folder, manifest = recorder.finished_take
    expect(manifest).to include("state" => "ended early", "gaps" => [], "note" => /Disk almost full: take 1 was ended safely/)
    expect(recorder.call("status")).to include("clock" => true, "capture" => nil, "last_problem" => manifest["note"])
    expect_whole(folder, manifest)
    expect(recorder.call("capture.start")).to include("message" => /The disk is full: \d+ MiB are free/)
  end

  it "is closed whole when somebody else fills the disk at once" do
    begin_capture({ takes => 100 })
    captured(1)
    fill(takes)
    folder, manifest = recorder.finished_take
    expect(manifest).to include("state" => "ended early", "frames" => be > 48_000, "gaps" => [], "note" => /ended early: No space left/)
    expect_whole(folder, manifest)
    expect(recorder.call("status")["clock"]).to be(true)
  end

  it "goes on without its mirror, which is whole to where its disk was full" do
    begin_capture({ second => 64 + 18 }, mirror: second)
    warned(/mirror in .*second stopped after/)
    captured((recorder.call("status")["capture"]["frames"] / 48_000.0) + 1)
    recorder.call("capture.stop")
    folder, manifest = recorder.finished_take
    expect(manifest).to include("state" => "complete", "note" => /\AThe mirror in .* stopped after \d+\.\d s: its disk is full/)
    expect_whole(folder, manifest)
    copy, told = Loomshuttle::Recorder::Manifest.all(recorder.seen(second)).first
    expect(told).to include("state" => "ended early", "frames" => be < manifest["frames"], "note" => manifest["note"])
    expect_whole(copy, told)
  end

  it "goes on in its mirror when the first disk fails, and says where it is" do
    begin_capture({ takes => 100 }, mirror: second)
    captured(1)
    fill(takes)
    warned(/goes on in/)
    captured(3)
    done = recorder.call("capture.stop")
    expect(done).to include("state" => "complete", "folder" => start_with(second), "note" => /takes stopped after .* No space left .* The take goes on in #{second}/)
    expect_whole(done["folder"], done)
    folder, manifest = recorder.finished_take
    expect(manifest).to include("state" => "ended early", "note" => done["note"])
    expect_whole(folder, manifest)
    expect(recorder.call("status")["last_problem"]).to eq(done["note"])
  end

  # 5 % of the packets, in bursts of 5 to 40 ms.
  it "tells each burst of lost packets, and holds everything else" do
    random, left, lost = Random.new(5), 0, []
    sender.lose = lambda do |number|
      left = random.rand(5..40) if left.zero? && random.rand < 0.0024
      (left -= 1) && (lost << number) if left.positive?
    end
    begin_capture
    captured(8)
    sender.lose = nil
    captured(9)
    recorder.call("capture.stop")
    folder, manifest = recorder.finished_take
    lane = samples(folder, manifest, 3)
    from, upto = lane[0], lane[-1]
    here = lost.grep(from..upto)
    expect(here.size).to be > 100
    expect((from..upto).to_a - lane.to_a.uniq).to eq(here)
    expect(manifest["gaps"].sum { |gap| gap["frames"] }).to eq(here.size * 48)
    expect(manifest["gaps"]).to all(satisfy { |gap| lane[gap["at"]...(gap["at"] + gap["frames"])].eq(0).all? })
    expect(manifest).to include("state" => "complete")
  end

  it "goes on when the desk starts again, and says where and how long that was" do
    begin_capture
    captured(2)
    sender.stop
    last = sender.sent
    ended = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    Tools.wait_until(60, "the loss") { !recorder.call("status")["clock"] }
    sender.start(source: 2, time: 900 * 48_000)
    warned(/restarted/)
    most = Process.clock_gettime(Process::CLOCK_MONOTONIC) - ended
    captured(4)
    recorder.call("capture.stop")
    folder, manifest = recorder.finished_take
    expect(manifest["breaks"]).to match([include("at" => be > 2 * 48_000, "seconds" => be_between(0.4, most))])
    expect(manifest).to include("state" => "complete", "note" => format("Gap of %.1f s at %.1f s: the desk restarted.",
                                                                        manifest["breaks"][0]["seconds"], manifest["breaks"][0]["at"] / 48_000.0))
    lane = samples(folder, manifest, 1)
    expect(lane[manifest["breaks"][0]["at"]]).to eq(last + 1)
    expect(lane.to_a.uniq - [0]).to eq((lane[0]..lane[-1]).to_a)
  end
end
