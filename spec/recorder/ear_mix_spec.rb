# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::EarMix do
  let(:rig) { VirtualRig.new.patch_straight }
  let(:recorder) { rig.recorder }

  def way(lane, side, late = 0, amplitude = 1.0) = { "lane" => lane, "side" => side, "late" => late, "amplitude" => amplitude }
  def sound(answer) = Numo::Int16.from_binary(answer["sound"].unpack1("m0")).reshape(answer["frames"], 2)

  # A take of the same time, sample by sample: what was captured of a lane from a position on.
  def captured(lane, from, frames)
    _, manifest = Loomshuttle::Recorder::Manifest.all(recorder.takes).first
    folder, = Loomshuttle::Recorder::Manifest.all(recorder.takes).first
    file = File.join(folder, manifest["tracks"].find { |track| track["inputs"] == [lane] }["file"])
    Numo::DFloat.cast(Loomshuttle::Formats::Wav::Reader.new(file).read(from - @began, frames)[true, 0])
  end

  before do
    rig.run(1)
    @began = recorder.engine.position
    recorder.capture_start(name: "All")
    rig.run(2)
    @answer = recorder.ear_mix(ways: [way(1, 0, 0, 0.5), way(2, 0, 48, -0.25), way(9, 1, 480, 1.0)])
    recorder.capture_stop
  end

  it "mixes lanes for two ears by their ways, each so late and so loud, sample by sample" do
    answer = @answer
    at, frames = answer.values_at("position", "frames")
    left = (captured(1, at, frames) * 0.5) - (captured(2, at - 48, frames) * 0.25)
    expect(frames).to be_between(23_000, 25_000)
    expect((Numo::DFloat.cast(sound(answer)[true, 0]) - (left / 256)).abs.max).to be <= 1.5 # half a step of rounding and one of dither
    expect((Numo::DFloat.cast(sound(answer)[true, 1]) - (captured(9, at - 480, frames) / 256)).abs.max).to be <= 1.5 # half a step of rounding and one of dither
    expect(sound(answer)[true, 1].abs.max).to be > 100
  end

  it "goes on without a seam, and begins again where what was asked for is long gone" do
    first = recorder.ear_mix(ways: [way(1, 0)])
    rig.run(0.4)
    second = recorder.ear_mix(ways: [way(1, 0)], from: first["position"] + first["frames"])
    expect(second["position"]).to eq(first["position"] + first["frames"])
    expect(second["frames"]).to be_within(2400).of(19_200)
    expect(recorder.ear_mix(ways: [way(1, 0)], from: 1 << 30)["frames"]).to be_within(2400).of(24_000)
  end

  it "is silent where nothing came, and nothing before anything has come" do
    expect(sound(recorder.ear_mix(ways: [way(600, 0)])).abs.max).to eq(0)
    fresh = VirtualRig.new.recorder.ear_mix(ways: [way(1, 0)])
    expect(fresh).to include("frames" => 0, "sound" => "")
  end

  it "lets nothing through its door that is not a way" do
    shape = Loomshuttle::Shape.list(described_class::WAY, most: described_class::WAYS)
    [way(0, 0), way(1, 2), way(1, 0, -1), way(1, 0, 300_000), way(1, 0, 0, 11), way(1, 0, 0, "1"), { "lane" => 1 }].each do |bad|
      expect { shape.check([bad], "ways") }.to raise_error(Loomshuttle::Invalid)
    end
  end
end
