# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::Listening do
  let(:rig) { VirtualRig.new.patch_straight }
  let(:seconds) { [] }

  before { rig.recorder.on_second = ->(lines, pairs) { seconds << [lines, pairs] } }

  def found(lane)
    hum = Loomshuttle::LineCheck::Hum.new
    seconds.map(&:first).each { |lines| hum.add(lines[lane - 1]) }
    hum.found(-20.0)
  end

  # The stand-in's sixteenth player has a hum of 50 Hz with its harmonics; the others play.
  it "hears hum in real samples, and in nobody's playing" do
    rig.run(6.5)
    expect((1..16).select { |lane| found(lane) }).to eq([16])
    expect(found(16)).to have_attributes(mains: 50, lines: include(50, 100, 150))
  end

  it "finds a doubled patch, and no two players alike" do
    rig.run(2.2)
    expect(seconds.flat_map(&:last)).to eq([])
    rig.desk.settings.set("strip/5/stage", "in/4")
    rig.run(3)
    expect(seconds.last.last.map { |one, two, r| [one, two, r.round(3)] }).to eq([[3, 4, 1.0]])
  end

  it "listens to every other second while a take is captured" do
    rig.run(4.2)
    expect(seconds.size).to eq(4)
    rig.recorder.capture_start(name: "Set")
    rig.run(6)
    expect(seconds.size).to eq(7)
    rig.recorder.capture_stop
    rig.run(4)
    expect(seconds.size).to be_between(10, 11)
    expect(found(16)).to have_attributes(mains: 50)
  end
end
