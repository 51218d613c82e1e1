# frozen_string_literal: true

RSpec.describe Loomshuttle::Timing::SpeakerDelays do
  # Main left and right at the stage, a delayed speaker 30 m out that people 12 m behind it hear.
  let(:room) do
    { "output/15/speaker" => "main", "output/15/x" => -5, "output/15/y" => 0, "output/16/speaker" => "main", "output/16/x" => 5, "output/16/y" => 0,
      "output/3/source" => "desk/matrix/1", "output/3/speaker" => "zone", "output/3/x" => -5, "output/3/y" => 30 }
  end

  def zones(changed = {}) = described_class.zones(HearingHelp.show(room.merge(changed)))

  it "delays a speaker by what sound takes to it, where nobody is said to stand" do
    expect(zones.first).to have_attributes(output: 3, at: nil, main_m: 30, speaker_m: 0, wanted: (30 / Loomshuttle::Timing::Air.speed(20) * 48_000).round, possible: true)
    expect(zones.first.late_ms).to be_within(0.01).of(-87.41)
  end

  it "counts where its listener stands, from the main speaker that is heard first, and later if that is wanted" do
    at = { "listener/1/hears" => ["desk/output/3"], "listener/1/hears_right" => [], "listener/1/x" => -5, "listener/1/y" => 42 }
    speed = Loomshuttle::Timing::Air.speed(30)
    zone = zones(at.merge("setup/temperature" => 30, "setup/later_ms" => 15)).first
    expect(zone).to have_attributes(at: 1, main_m: 42, speaker_m: 12)
    expect(zone.wanted).to eq((((30 / speed) + 0.015) * 48_000).round)
    held = zones(at.merge("output/15/delay" => 4800)).first
    expect(held.main_m).to be_within(0.001).of(Math.hypot(10, 42)) # output 15 is held back, so the other one is first
  end

  it "sets all in one step, and then all are in time" do
    show = HearingHelp.show(room.merge("output/4/source" => "desk/matrix/2", "output/4/speaker" => "zone", "output/4/x" => 5, "output/4/y" => 55.5))
    done, changes = Loomshuttle::Steps::DelaySpeakers.edit(show).apply(show)
    expect(changes.map(&:path)).to eq(%w[output/3/delay output/4/delay])
    expect(described_class.zones(done).map { |zone| zone.late_ms.abs }).to all(be < 0.011)
    expect(findings(show).map(&:check)).to include("delay-geometry")
    expect(findings(done).map(&:check)).not_to include("delay-geometry")
  end

  it "mends one from its finding" do
    show = HearingHelp.show(room)
    finding = findings(show).find { |one| one.check == "delay-geometry" }
    expect(finding.sentence).to eq("The speaker on output 3 is heard 87.4 ms too early relative to the main speakers, 30.0 m away.")
    expect(findings(finding.fix.apply(show).first).map(&:check)).not_to include("delay-geometry")
  end

  it "says what it lacks, and what a desk cannot" do
    expect { Loomshuttle::Steps::DelaySpeakers.edit(HearingHelp.show) }.to raise_error(Loomshuttle::Invalid, /Place a main and a delay speaker/)
    far = HearingHelp.show(room.merge("output/3/y" => 400))
    expect { Loomshuttle::Steps::DelaySpeakers.edit(far) }.to raise_error(Loomshuttle::Invalid, /Output 3 needs \d+ samples/)
  end
end
