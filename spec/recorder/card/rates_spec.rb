# frozen_string_literal: true

# Whole captures and playback at each rate that the trade works at.
RSpec.describe "The recorder at other rates", :folder do
  [44_100, 88_200, 96_000].each do |rate|
    context "with #{rate / 1000.0} kHz" do
      let(:rig) { VirtualRig.new(home: @folder, rate: rate).patch_straight(4) }
      let(:recorder) { rig.recorder }

      def take(number = 1) = Loomshuttle::Recorder::Manifest.all(recorder.takes).find { |_, manifest| manifest["number"] == number }

      def samples(track, number = 1)
        take(number).then { |folder, manifest| Loomshuttle::Formats::Wav::Reader.new(File.join(folder, manifest["tracks"][track - 1]["file"])).read[true, 0] }
      end

      it "captures what the desk sent, looks back, listens, and plays it back bit for bit" do
        heard, seconds = [], []
        recorder.on_second = ->(lines, pairs) { seconds << [lines, pairs] }
        rig.disturb = ->(stream, bytes) { [bytes.tap { heard << Loomshuttle::Formats::Rtp.unpack(bytes).payload if stream.zero? }] }
        rig.run(2)
        recorder.capture_start(name: "Rate", frames: 2 * rate)
        rig.run(2.3)
        folder, manifest = take
        expect(manifest).to include("rate" => rate, "frames" => 2 * rate, "state" => "complete", "gaps" => [], "overview" => include("frames" => rate / 20))
        expect(samples(3)).to eq(Loomshuttle::Audio::Pcm24.from_network(heard.join, 8)[manifest["start_position"]...(manifest["start_position"] + (2 * rate)), 2])
        file = File.join(folder, manifest["tracks"][2]["file"])
        expect(Tools.run("sndfile-info", file)).to match(/Sample Rate\s*: #{rate}\b/).and match(/Frames\s*: #{2 * rate}\b/)
        # 20:30 in the evening
        expect(Loomshuttle::Formats::Wav::Reader.new(file).bext.time_reference).to be_within(rate / 10).of(((20 * 60) + 30) * 60 * rate)
        expect(recorder.status).to include("rate" => rate, "look_back" => include("seconds" => be_within(0.2).of(4.2)))
        expect(seconds.size).to be_between(3, 4)
        rig.disturb = nil
        (1..4).each { |n| rig.desk.settings.set("strip/#{n}/hears", "take") && rig.desk.settings.set("card/send/#{n}/tap", "channel-in") }
        recorder.play(take: 1)
        recorder.capture_start(name: "Again", frames: rate)
        rig.run(1.3)
        expect(recorder.status["take_playback"]["underruns"]).to eq(0)
        first, again = samples(3), samples(3, 2)
        probe = again[(rate / 2)...((rate / 2) + 2000)]
        at = (0...(rate / 2)).find { |start| first[start] == probe[0] && first[start...(start + 2000)] == probe }
        expect(first[at...(at + (rate / 3))]).to eq(again[(rate / 2)...((rate / 2) + (rate / 3))])
      end
    end
  end

  it "does not play what was captured at another rate" do
    rig = VirtualRig.new(home: @folder).patch_straight(2)
    rig.run(0.2)
    rig.recorder.capture_start(frames: 4800)
    rig.run(0.3)
    path = Dir[File.join(@folder, "takes", "*", "take.json")].first
    File.write(path, File.read(path).sub('"rate": 48000', '"rate": 44100'))
    expect { rig.recorder.play(take: 1) }.to raise_error(Loomshuttle::Invalid, /captured at 44.1 kHz, and the card runs at 48.0 kHz/)
  end
end
