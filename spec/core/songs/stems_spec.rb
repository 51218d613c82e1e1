# frozen_string_literal: true

RSpec.describe Loomshuttle::Songs::Stems do
  def sound(name, lanes: 1)
    parsed = Loomshuttle::Delivery::Name.parse(name)
    Loomshuttle::Delivery::Sound.new(path: "/x/#{name}", name: parsed, rate: 48_000, lanes: lanes, codec: "pcm", frames: 1, time_reference: nil, called: [])
  end

  def roles(*names) = described_class.of(names.map { |name| sound(name) }).to_h { |one| [one.role, one.paths.size] }

  it "leaves out what all names have, however they write it" do
    expect(roles("03_RopeWalk-96bpm STRINGS L.wav", "04_RopeWalk-96bpm STRINGS R.wav", "ropewalk 96bpm frame_loop.wav")).to eq("Strings" => 2, "Frame loop" => 1)
    expect(roles("Tide 2026 - Low Brass.wav", "Tide 2026 - Choir.flac", "Tide 2026 - Klick.aif")).to eq("Low brass" => 1, "Choir" => 1, "Click" => 1)
  end

  it "keeps a name that is all there is" do
    expect(roles("Strings.wav")).to eq("Strings" => 1)
    expect(roles("01.wav")).to eq("Stem" => 1)
  end

  it "joins sides only where both are mono" do
    two = described_class.of([sound("Pad L.wav", lanes: 2), sound("Pad R.wav", lanes: 2)])
    expect(two.map { |one| [one.paths.size, one.lanes, one.notes] }).to eq([[1, 2, ["2 files play together as Pad"]]] * 2)
  end

  it "reads a tempo in a name, and none that cannot be" do
    expect(described_class.bpm(["a", "Tide 97,5 BPM"])).to eq(97.5)
    expect(described_class.bpm(["Tide 1096bpm", "12bpm"])).to be_nil
  end
end
