# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::Unit, :folder do
  let(:rig) { VirtualRig.new(home: @folder).patch_straight }
  let(:recorder) { rig.recorder }

  def takes = Loomshuttle::Recorder::Manifest.all(recorder.takes)

  def samples(take, track) = read(take, track).read[true, 0]

  def read(take, track)
    folder, manifest = takes[take]
    Loomshuttle::Formats::Wav::Reader.new(File.join(folder, manifest["tracks"][track]["file"]))
  end

  def capture(seconds, **options)
    recorder.capture_start(frames: (seconds * 48_000).round, **options)
    rig.run(seconds + 0.1)
  end

  describe "capture" do
    it "writes a file a track with the wanted length, and tells their levels" do
      rig.run(0.2)
      capture(1.01, name: "First set")
      folder, manifest = takes.first
      expect(File.basename(folder)).to eq("0001 First set")
      expect(manifest).to include("state" => "complete", "frames" => 48_480, "gaps" => [], "rate" => 48_000)
      expect(manifest["tracks"].size).to eq(16)
      fiddle = manifest["tracks"][3]
      expect(fiddle).to include("file" => "First set 0001 04 Track 4.wav", "frames" => 48_480)
      measured = Loomshuttle::Audio::Level.rms(read(0, 3).read).first
      expect(fiddle["rms_dbfs"]).to be_within(0.35).of(measured) # the last batch is measured whole
      expect(fiddle["peak_dbfs"]).to be_within(0.01).of(Loomshuttle::Audio::Level.peak(read(0, 3).read).first)
    end

    it "writes what the desk sent, sample for sample" do
      rig.run(0.2)
      sent = []
      rig.disturb = ->(stream, bytes) { [bytes.tap { sent << Loomshuttle::Formats::Rtp.unpack(bytes).payload if stream.zero? }] }
      recorder.capture_start(frames: 24_000)
      rig.run(0.6)
      block = Loomshuttle::Audio::Pcm24.from_network(sent.join, 8)
      expect(samples(0, 6)).to eq(block[0...24_000, 6])
    end

    it "keeps stereo tracks together, also over two streams" do
      recorder.configure(tracks: [{ "number" => 1, "name" => "Pair", "inputs" => [8, 9], "outputs" => [], "armed" => true },
                                  { "number" => 2, "name" => "L", "inputs" => [8], "outputs" => [], "armed" => true }])
      rig.run(0.2)
      capture(0.5)
      expect(read(0, 0).lanes).to eq(2)
      expect(read(0, 0).read[true, 0]).to eq(samples(0, 1))
    end

    it "counts takes on and never uses a name twice" do
      rig.run(0.2)
      2.times { capture(0.1, name: "Same") }
      expect(takes.map { |folder, _| File.basename(folder) }).to eq(["0001 Same", "0002 Same"])
    end

    it "tells where packets were lost" do
      rig.run(0.2)
      dropped = 0
      rig.disturb = ->(stream, bytes) { stream == 1 && (dropped += 1).between?(100, 104) ? [] : [bytes] }
      capture(1)
      manifest = takes.first.last
      expect(manifest["gaps"]).to eq([{ "at" => 99 * 48, "frames" => 240, "lanes" => [9, 16] }])
      expect(samples(0, 8)[(99 * 48)...((99 * 48) + 240)].abs.max).to eq(0)
    end

    it "is not harmed by swapped and repeated packets" do
      rig.run(0.2)
      clean = VirtualRig.new(home: File.join(@folder, "clean")).patch_straight.run(0.2)
      held = nil
      rig.disturb = lambda do |stream, bytes|
        next [bytes] unless stream.zero?

        pair, held = held ? [[bytes, held, bytes], nil] : [[], bytes]
        pair
      end
      [rig, clean].each do |one|
        one.recorder.capture_start(frames: 24_000)
        one.run(0.7)
      end
      folders = [rig, clean].map { |one| Loomshuttle::Recorder::Manifest.all(one.recorder.takes).first }
      read = folders.map { |folder, manifest| Loomshuttle::Formats::Wav::Reader.new(File.join(folder, manifest["tracks"][3]["file"])).read }
      expect(folders.first.last["gaps"]).to eq([])
      expect(read.first).to eq(read.last)
    end

    it "has good headers at least once a second while it goes on" do
      rig.run(0.2)
      recorder.capture_start
      rig.run(2.3)
      expect(read(0, 0).frames).to be >= 48_000 * 1.3
      expect(takes.first.last).to include("state" => "capturing")
      expect(recorder.capture_stop).to include("state" => "complete")
    end

    {
      "two at once" => [->(r) { Array.new(2) { r.recorder.capture_start } }, /is being captured already/],
      "no armed track" => [->(r) { r.recorder.arm(armed: false) && r.recorder.capture_start }, /No track is armed/],
      "a length of nothing" => [->(r) { r.recorder.capture_start(frames: 0) }, /above 0/],
      "arming what is not there" => [->(r) { r.recorder.arm(armed: true, numbers: [99]) }, /no track 99/],
      "stopping nothing" => [->(r) { r.recorder.capture_stop }, /Nothing is being captured/],
      "a track without lanes" => [->(r) { r.recorder.configure(tracks: [{ "number" => 1 }]) }, /needs number, name/],
      "playing what is not there" => [->(r) { r.recorder.play(take: 42) }, /no take 42/]
    }.each do |what, (act, message)|
      it "refuses #{what}" do
        rig.run(0.2)
        expect { act.call(rig) }.to raise_error(Loomshuttle::Invalid, message)
      end
    end

    it "says that nothing arrives when no desk sends" do
      expect { recorder.capture_start }.to raise_error(Loomshuttle::Invalid, /No audio from the desk/)
    end

    it "closes the take cleanly when the disk is full" do
      rig.run(0.2)
      recorder.capture_start(name: "Full")
      rig.run(0.5)
      allow_any_instance_of(Loomshuttle::Formats::Wav::Writer).to receive(:write).and_raise(Errno::ENOSPC) # rubocop:disable RSpec/AnyInstance
      rig.run(0.3)
      expect(takes.first.last).to include("state" => "ended early", "note" => /No space left/)
      expect(recorder.status["last_problem"]).to include("ended early")
      expect(read(0, 0).frames).to eq(24_000)
    end
  end

  describe "playback" do
    before do
      rig.run(0.2)
      capture(1)
      recorder.arm(armed: false)
    end

    def on_take = (1..16).each { |n| rig.desk.settings.set("strip/#{n}/hears", "take") }

    it "plays a range round and round, and stops when told" do
      recorder.play(take: 1, from: 4800, to: 9600, loop: true)
      rig.run(0.5)
      expect(recorder.status["take_playback"]).to include("loop" => true, "position" => be_between(4800, 9600))
      recorder.stop
      expect(recorder.status["take_playback"]).to be_nil
    end

    it "ends on its own at the end of the take" do
      recorder.play(take: 1)
      rig.run(1.2)
      expect(recorder.status["take_playback"]).to be_nil
    end

    it "refuses a range outside the take" do
      expect { recorder.play(take: 1, from: 50_000) }.to raise_error(Loomshuttle::Invalid, /not inside the take, which has 48000 frames/)
    end

    it "moves the desk's meters as the stage did" do
      before = rig.meters.dup.last(20).map { |_, peaks, _| peaks.first(16) }
      on_take
      (1..16).each { |n| rig.desk.settings.set("card/send/#{n}/tap", "channel-in") }
      recorder.play(take: 1)
      rig.run(1.0)
      after = rig.meters.last(20).map { |_, peaks, _| peaks.first(16) }
      loudest = ->(frames) { frames.transpose.map(&:max) }
      expect(loudest.call(after).zip(loudest.call(before)).map { |a, b| (a - b).abs }.max).to be < 3
    end
  end

  # The whole way: a capture, played into the desk's take side, captured again at channel in, is the same, bit for bit.
  it "brings a take back bit for bit, all lanes, over five seconds" do
    rig.run(0.2)
    capture(5.5, name: "Live")
    (1..16).each do |n|
      { "hears" => "take" }.each { |field, value| rig.desk.settings.set("strip/#{n}/#{field}", value) }
      rig.desk.settings.set("card/send/#{n}/tap", "channel-in")
    end
    recorder.play(take: 1)
    capture(5.5, name: "Again")
    live, again = [0, 1].map { |take| (0...16).map { |track| samples(take, track) } }
    shift = again[3].ne(0).where[0] - live[3].ne(0).where[0]
    length = (5 * 48_000) + 4800
    equal = (0...16).map { |track| live[track][0...length] == again[track][shift...(shift + length)] }
    expect(equal).to all(be(true))
    expect(live[3][0...length].abs.max).to be > 100_000
  end

  it "mends what a killed recorder left, and says so at the next start" do
    rig.run(0.2)
    recorder.capture_start(name: "Cut")
    rig.run(2.25)
    folder, manifest = takes.first
    File.open(File.join(folder, manifest["tracks"][2]["file"]), "ab") { |file| file.write("\1\2") } # half a sample
    again = described_class.new(sends: rig.desk.send_streams, returns: rig.desk.return_streams, takes: recorder.takes,
                                settings: File.join(@folder, "recorder.json"), now: -> { 0.0 }) { |_, _| nil }
    expect(again.recovered.first).to include("state" => "recovered", "frames" => 2.25 * 48_000, "note" => /2.2 s of 16 tracks were recovered/)
    expect((0...16).map { |track| read(0, track).frames }.uniq).to eq([108_000])
    nil while again.look_after_recovered
    expect(takes.first.last["tracks"].first["peak_dbfs"]).to be_within(0.01).of(Loomshuttle::Audio::Level.peak(read(0, 0).read).first)
  end

  it "knows its tracks again after a restart" do
    recorder
    again = described_class.new(sends: rig.desk.send_streams, returns: [], takes: recorder.takes, settings: File.join(@folder, "recorder.json"), now: -> { 0.0 }) { |_, _| nil }
    expect(again.instance_variable_get(:@config)["tracks"].size).to eq(16)
  end
end

RSpec.describe Loomshuttle::Runtime::Rpc do
  let(:rpc) { described_class.new("add" => ->(a:, b: 1) { a + b }, "fail" => -> { raise Loomshuttle::Invalid.new("No.", where: "here") }, "burst" => -> { raise "x" }) }

  def answer(request) = rpc.answer(request.is_a?(String) ? request : JSON.generate(request))&.then { |line| JSON.parse(line) }

  it "answers a call, and nothing to a notification" do
    expect(answer({ jsonrpc: "2.0", id: 3, method: "add", params: { a: 2 } })).to eq("jsonrpc" => "2.0", "id" => 3, "result" => 3)
    expect(answer({ jsonrpc: "2.0", method: "add", params: { a: 2 } })).to be_nil
  end

  # JSON-RPC 2.0 specification, 5.1 and 7
  {
    "{" => -32_700, "[]" => -32_600, "1" => -32_600, '{"id":1,"method":"add"}' => -32_600, '{"jsonrpc":"2.0","id":1,"method":"nope"}' => -32_601,
    '{"jsonrpc":"2.0","id":1,"method":"add"}' => -32_602, '{"jsonrpc":"2.0","id":1,"method":"add","params":{"a":1,"z":2}}' => -32_602,
    '{"jsonrpc":"2.0","id":1,"method":"add","params":[1]}' => -32_602, '{"jsonrpc":"2.0","id":1,"method":"fail"}' => 1
  }.each do |line, code|
    it("answers #{line[0, 40]} with #{code}") { expect(answer(line).dig("error", "code")).to eq(code) }
  end

  it "answers a batch with a batch" do
    expect(answer([{ jsonrpc: "2.0", id: 1, method: "add", params: { a: 1 } }, 1]).map { |one| one["id"] }).to eq([1, nil])
  end

  it "survives what goes wrong inside" do
    expect { expect(answer({ jsonrpc: "2.0", id: 1, method: "burst" }).dig("error", "code")).to eq(-32_603) }.to output(/burst/).to_stderr
  end
end
