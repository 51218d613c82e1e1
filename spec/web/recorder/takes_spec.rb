# frozen_string_literal: true

require "shellwords"

# Takes that were captured from the stand-in, drawn and listened to.
RSpec.describe "A take for the screen", :folder do
  let(:rig) { VirtualRig.new(home: @folder).patch_straight(4) }
  let(:take) do
    rig.run(0.2)
    rig.recorder.capture_start(frames: 96_000)
    rig.recorder.rest(tracks: [3], resting: true)
    rig.run(2.2)
    folder, manifest = Loomshuttle::Recorder::Manifest.all(rig.recorder.takes).first
    manifest.merge("folder" => folder)
  end

  def samples(track) = Loomshuttle::Formats::Wav::Reader.new(File.join(take["folder"], take["tracks"][track - 1]["file"])).read[true, 0]

  describe Loomshuttle::Web::Waveform do
    def columns(points, **options) = described_class.new(take).columns(points, **options)
    def byte(block) = (255 + (Loomshuttle::Audio::Level.dbfs(block.abs.max / 8_388_608.0) / 0.375)).round.clamp(0, 255)

    it "tells the loudest in each column, of one track or of all" do
      halves = [0...48_000, 48_000...96_000]
      expect(columns(2, track: 2)).to eq(halves.map { |half| byte(samples(2)[half]) })
      expect(columns(2)).to eq(halves.map { |half| (1..4).map { |track| byte(samples(track)[half]) }.max })
      expect(columns(4, track: 3)).to eq([0, 0, 0, 0])
    end

    it "looks into the sound itself where somebody looks closely" do
      near = columns(10, track: 2, from: 10_000, to: 10_400)
      expect(near).to eq((0...10).map { |at| byte(samples(2)[(10_000 + (at * 40))...(10_040 + (at * 40))]) })
    end

    it "has nothing where there is nothing, and says what is not there" do
      expect([columns(5, from: 96_000), described_class.new(take.merge("overview" => { "file" => "none", "frames" => 2400 })).columns(5)]).to eq([[], []])
      expect { columns(5, track: 9) }.to raise_error(Loomshuttle::Invalid, /no track 9/)
    end
  end

  describe Loomshuttle::Web::QuickMix do
    def heard(**options)
      path = File.join(@folder, "heard.wav")
      File.binwrite(path, bytes_of(described_class.new(take, **options)))
      Tools.run("sox", path, "-n", "stats")
    end

    it "is one track as it is, or all of them turned down, as sox measures" do
      peak = Loomshuttle::Audio::Level.peak(samples(2).reshape(96_000, 1)).first
      expect(heard(track: 2)[/Pk lev dB\s+(\S+)/, 1].to_f).to be_within(0.05).of(peak)
      sum = [1, 2, 4].sum { |track| Numo::DFloat.cast(samples(track)) } # three is at rest
      mixed = Loomshuttle::Audio::Level.dbfs(sum.abs.max / 8_388_608.0)
      expect(heard[/Pk lev dB\s+(\S+)/, 1].to_f).to be_within(0.05).of(mixed)
    end

    # SoX mixes the same tracks by the same gains and delays; what is heard is that, turned so far that all ways together have the headroom.
    it "is for a listener what SoX makes of the same tracks, gains and delays" do
      ears = { 1 => [[[0, 0.5]], [[480, 0.25]]], 2 => [[[0, 0.8], [96, -0.3]], []], 3 => [[], []], 4 => [[[0, 0.1]], [[0, 0.1]]] }
      File.binwrite(path = File.join(@folder, "ears.wav"), bytes_of(described_class.new(take, ears: ears)))
      turned = described_class::HEADROOM / Math.sqrt(ears.values.flatten(2).sum { |_, amplitude| amplitude**2 } / 2)
      2.times do |side|
        parts = ears.flat_map do |track, sides|
          file = Shellwords.escape(File.join(take["folder"], take["tracks"][track - 1]["file"]))
          sides[side].map { |late, amplitude| ["-v", (amplitude * turned).to_s, "|sox #{file} -p pad #{late}s"] }
        end
        Tools.run("sox", *(parts.size > 1 ? ["-m"] : []), *parts.flatten, "-e", "float", "-b", "32", wanted = File.join(@folder, "wanted.wav"), "trim", "0", "96000s")
        found, told = [[path, ["remix", (side + 1).to_s]], [wanted, []]].map { |file, effects| Tools.run("sox", file, "-n", *effects, "stats") }
        ["RMS lev dB", "Pk lev dB"].each do |figure|
          is, wants = [found, told].map { |text| text[/#{figure}\s+(\S+)/, 1].to_f }
          expect(is).to be_within(0.05).of(wants), "#{figure} of side #{side}: #{is}, not #{wants}"
        end
      end
    end

    it "gives the same bytes from anywhere, as a listener who was paused asks for them" do
      whole = bytes_of(described_class.new(take))
      expect(whole.bytesize).to eq(described_class.new(take).size)
      [[0, 10], [20, 60], [44, 45], [47, 100_003], [whole.bytesize - 7, whole.bytesize]].each do |from, upto|
        expect(bytes_of(described_class.new(take).part(from, upto))).to eq(whole.byteslice(from...upto))
      end
    end

    it "begins where it is wanted" do
      expect(heard(track: 2, from: 48_000)[/Num samples\s+(\S+)/, 1]).to eq("48.0k")
    end
  end
end
