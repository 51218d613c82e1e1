# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::RoundTrip, :folder do
  let(:rig) { VirtualRig.new(home: @folder).patch_straight(4) }
  let(:recorder) { rig.recorder }

  before do
    recorder.wait = -> { rig.run(0.05) }
    rig.run(0.3)
  end

  def takes = Loomshuttle::Recorder::Manifest.all(recorder.takes)

  def samples(take, number)
    takes[take].then { |folder, manifest| Loomshuttle::Formats::Wav::Reader.new(File.join(folder, manifest["tracks"].find { |one| one["number"] == number }["file"])).read[true, 0] }
  end

  # Channel 1 hears the card and is sent at channel in: a loop through the desk.
  def loop_through(channel)
    rig.desk.settings.set("strip/#{channel}/hears", "take")
    rig.desk.settings.set("card/send/#{channel}/tap", "channel-in")
  end

  it "measures the way through the desk to the sample: the buffer, since the stand-in adds nothing" do
    loop_through(1)
    expect(recorder.measure_trip(output: 1, input: 1)).to eq("frames" => 1024, "buffer" => 1024)
    recorder.configure(tracks: recorder.status["tracks"], buffer: 2048)
    expect(recorder.measure_trip(output: 1, input: 1)).to eq("frames" => 2048, "buffer" => 2048)
  end

  it "says so when nothing comes back" do
    expect { recorder.measure_trip(output: 1, input: 2) }.to raise_error(Loomshuttle::Invalid, /did not arrive on card send 2/)
    expect(recorder.status["take_playback"]).to be_nil
  end

  # What comes back by the loop is what was played: it has to stand where it was played, sample for sample.
  it "places what is captured over a take exactly where it was played" do
    recorder.capture_start(frames: 96_000, name: "First")
    rig.run(2.2)
    loop_through(1)
    recorder.measure_trip(output: 1, input: 1)
    recorder.overdub(take: 1, tracks: [2, 3], from: 24_000, name: "Second")
    rig.desk.settings.set("card/send/2/from", "ch/1") # track 2 hears what the desk hears of track 1
    rig.desk.settings.set("card/send/2/tap", "channel-in")
    rig.run(1.2)
    done = recorder.capture_stop
    expect(recorder.status["take_playback"]).to be_nil
    expect(done["over"]).to include("number" => 1, "from" => 24_000, "trip" => 1024)
    expect(done["tracks"].map { |track| track["number"] }).to eq([2, 3])
    second = samples(1, 2)
    expect(second[0...24_000].abs.max).to eq(0)
    expect(second[24_480...60_000]).to eq(samples(0, 1)[24_480...60_000])
  end

  it "costs no disk space for what lies before it, and refuses what cannot be" do
    recorder.capture_start(frames: 480_000)
    rig.run(10.2)
    recorder.overdub(take: 1, tracks: [2], from: 470_000)
    rig.run(0.3)
    recorder.capture_stop
    file = File.join(takes[1].first, takes[1].last["tracks"].first["file"])
    expect(File.stat(file).blocks * 512).to be < 200_000
    expect { recorder.overdub(take: 1, tracks: [99]) }.to raise_error(Loomshuttle::Invalid, /at least one track/)
    expect { recorder.overdub(take: 7, tracks: [2]) }.to raise_error(Loomshuttle::Invalid, /no take 7/)
  end
end
