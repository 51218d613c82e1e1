# frozen_string_literal: true

RSpec.describe Loomshuttle::Steps do
  def step(show, kind, options = {}) = Loomshuttle::Steps::Propose.for(show, kind, options).edit

  let(:rig) do
    set(blank("alder-40"), "bus/1/name" => "Ear Ada", "bus/2/name" => "Wedge drums", "bus/3/name" => "Harbour radio feed", "bus/3/paired" => true, "bus/5/name" => "Front fill",
                           "bus/6/name" => "Effect 1", "output/1/source" => "desk/bus/1", "output/2/source" => "desk/bus/2", "output/3/source" => "desk/bus/3",
                           "output/4/source" => "desk/bus/4", "output/5/source" => "desk/bus/5", "output/15/source" => "desk/main/l", "output/16/source" => "desk/main/r",
                           "personal/1/source" => "desk/ch/1", "personal/2/source" => "desk/ch/2")
  end

  it "proposes who listens from rig and bus names, pairs as one, and nobody whose mix is not connected" do
    show, = step(rig, "listeners").apply(rig)
    expect(show.listeners.values.map { |one| [one.name, one.kind, one.hears, one.hears_right] }).to eq(
      [["PA", "area", ["desk/output/15"], ["desk/output/16"]], ["Ada", "person", ["desk/output/1"], []], ["Wedge drums", "person", ["desk/output/2"], []],
       ["Harbour radio feed", "broadcast", ["desk/output/3"], ["desk/output/4"]], ["Front fill", "area", ["desk/output/5"], []],
       ["Personal mixers", "machine", %w[desk/personal/1 desk/personal/2], []]]
    )
  end

  it "leaves out what somebody hears already, and says when nobody is missing" do
    some = set(rig, "listener/order" => [7], "listener/7/name" => "Hall", "listener/7/hears" => ["desk/output/15"])
    show, = step(some, "listeners").apply(some)
    expect(show.listeners.values.map(&:name)).to eq(["Hall", "Ada", "Wedge drums", "Harbour radio feed", "Front fill", "Personal mixers"])
    expect(show.listeners.keys).to eq([7, 8, 9, 10, 11, 12])
    expect { step(show, "listeners") }.to raise_error(Loomshuttle::Invalid, /already has a listener/)
  end

  it "sets outputs one behind the other in one step, and empties them" do
    edit = step(rig, "outputs", "first" => 9, "count" => 4, "source" => "desk/bus/3")
    expect(edit).to have_attributes(label: "Outputs 9 to 12: Bus 3 Harbour radio feed to Bus 6 Effect 1",
                                    settings: (9..12).to_h { |n| ["output/#{n}/source", "desk/bus/#{n - 6}"] })
    expect(step(rig, "outputs", "first" => 13, "count" => 2, "source" => "desk/main/l").settings.values).to eq(%w[desk/main/l desk/main/r])
    lanes = step(rig, "outputs", "first" => 3, "count" => 2, "source" => "desk/ch/5", "kind" => "personal")
    expect(lanes).to have_attributes(label: "Personal mixes 3 to 4: Channel 5 to Channel 6", settings: { "personal/3/source" => "desk/ch/5", "personal/4/source" => "desk/ch/6",
                                                                                                         "personal/3/tap" => "pre-fader", "personal/4/tap" => "pre-fader" })
    expect { step(rig, "outputs", "first" => 16, "count" => 2, "source" => "", "kind" => "personal") }.to raise_error(Loomshuttle::Invalid, /personal mixes 1 to 16, not 16 to 17/)
    empty = step(rig, "outputs", "first" => 1, "count" => 16, "source" => "")
    expect(empty.apply(rig).first.outputs.values.map(&:source).compact).to eq([])
  end

  it "makes an output a speaker's, where such a speaker usually stands" do
    of = ->(number) { step(rig, "speaker", "output" => number).settings.values }
    expect([of.call(15), of.call(16), of.call(5)]).to eq([["main", -5, 0], ["main", 5, 0], ["zone", 0, 20]])
    expect { of.call(9) }.to raise_error(Loomshuttle::Invalid, /carries nothing that a speaker could play/)
    expect { of.call(99) }.to raise_error(Loomshuttle::Invalid, /no output 99/)
  end

  {
    { "first" => 15, "count" => 3, "source" => "desk/bus/1" } => /outputs 1 to 16, not 15 to 17/,
    { "first" => 1, "count" => 4, "source" => "desk/bus/12" } => /not 4 sources from Bus 12/,
    { "first" => 1, "count" => 1, "source" => "desk/bus/99" } => /not 1 sources/, { "first" => 0, "count" => 0, "source" => "" } => /outputs 1 to 16/
  }.each { |options, message| it("refuses #{options}") { expect { step(rig, "outputs", options) }.to raise_error(Loomshuttle::Invalid, message) } }
end

RSpec.describe Loomshuttle::Steps::WetCapture do
  def step(show, channels) = Loomshuttle::Steps::Propose.for(show, "wet_capture", "channels" => channels).edit

  it "captures channels processed on free lanes and tracks, named after the dry ones, and nothing comes back from them" do
    show = set(straight(4), "track/2/name" => "Fiddle")
    wet, = step(show, [2, 4]).apply(show)
    expect(wet.tracks.values.select { |track| track.name.end_with?("wet") }.map { |track| [track.number, track.name, track.inputs, track.outputs, track.armed] })
      .to eq([[5, "Fiddle wet", [5], [], true], [6, "Source 4 wet", [6], [], true]])
    expect([5, 6].map { |lane| named(wet.point_of(wet.sends[lane])) }).to eq(%w[desk/ch/2@pre-fader desk/ch/4@pre-fader])
    expect(findings(wet)).to eq([])
  end

  it "gives a stereo channel a pair of lanes" do
    stereo = blank("rowan-16").profile.strips.find { |strip| strip.width == 2 }
    show = set(straight(3), "channel/#{stereo.number}/name" => "Keys")
    wet, = step(show, [stereo.number]).apply(show)
    expect(wet.tracks.values.find { |track| track.name == "Keys wet" }).to have_attributes(stereo: true, inputs: [5, 6])
  end

  it "refuses what is captured so already, or has no room" do
    show = straight(4)
    wet, = step(show, [1]).apply(show)
    expect { step(wet, [1]) }.to raise_error(Loomshuttle::Invalid, /Source 1 is captured at pre-fader already/)
    expect { step(set(straight(2), "setup/card_mode" => "2 lanes"), [1]) }.to raise_error(Loomshuttle::Invalid, /No card send is free/)
    expect { step(show, []) }.to raise_error(Loomshuttle::Invalid, /Choose the channels/)
    expect { step(show, [99]) }.to raise_error(Loomshuttle::Invalid, /no channel 99/)
  end
end

RSpec.describe Loomshuttle::Steps::SecondChannel do
  def step(show, number) = Loomshuttle::Steps::Propose.for(show, "second_channel", "channel" => number).edit

  it "lets the next free channel hear the same, off main, and says what it is" do
    show = set(straight(4), "channel/2/gain" => 20, "channel/2/phantom" => true)
    edit = step(show, 2)
    expect(edit.label).to eq("Let channel 5 hear Source 2 as well")
    two, = edit.apply(show)
    expect(two.channels[5]).to have_attributes(name: "Source 2 2", stage: show.channels[2].stage, gain: 20, phantom: true, main: false, take: show.channels[2].take,
                                               position: "stage")
    expect(findings(two).map(&:check) & %w[foreign-return shared-lane]).to eq([])
    flipped, = Loomshuttle::Steps::Flip.edit(two, to: "take").apply(two)
    expect(flipped.channels.values_at(2, 5).map(&:position)).to eq(%w[take take])
    expect(Loomshuttle::Hearing::Sources.of(two, Loomshuttle::Signal.build(two)).map(&:id)).to eq(%w[channel/1 channel/2 channel/3 channel/4])
  end

  it "is on main only where that is wanted, and on take where the first one is" do
    show = set(straight(4), "channel/2/position" => "take")
    two, = Loomshuttle::Steps::Propose.for(show, "second_channel", "channel" => 2, "main" => true).edit.apply(show)
    expect(two.channels[5]).to have_attributes(main: true, position: "take")
  end

  it "works on a desk of blocks by a free slot, and refuses where there is nothing to hear, or no channel" do
    show = set(chained, "channel/3/stage" => "link/a/up/3", "channel/3/name" => "Voice")
    two, = step(show, 3).apply(show)
    expect(two.channels.values.count { |channel| channel.stage == point("link/a/up/3") }).to eq(2)
    expect { step(blank, 2) }.to raise_error(Loomshuttle::Invalid, /hears nothing on stage/)
  end
end

RSpec.describe Loomshuttle::Steps::PlayTo do
  def made(show, numbers, **options) = described_class.edit(show, numbers, **options).apply(show).first
  def outputs(show, *numbers) = numbers.map { |number| show.tracks[number].outputs }

  let(:show) { set(straight(6), "track/3/inputs" => [], "track/3/outputs" => [], "track/3/armed" => false, "track/3/stereo" => true) }

  it "plays a range one behind the other, a stereo track on odd and even" do
    expect(outputs(made(show, [1, 2, 3, 4], first: 8), 1, 2, 3, 4)).to eq([[8], [9], [11, 12], [13]])
  end

  it "lets them share one on purpose, which silences what would be found" do
    shared = made(straight(6), [4, 5, 6], first: 4, shared: true)
    expect(outputs(shared, 4, 5, 6)).to eq([[4]] * 3)
    expect(findings(shared).map(&:check) & %w[shared-lane foreign-return]).to eq([])
    apart = set(shared, "track/5/shares" => "", "track/6/shares" => "", "track/4/shares" => "")
    expect(findings(apart).map(&:check)).to include("shared-lane", "foreign-return")
  end

  it "refuses returns and tracks that are not there" do
    expect { made(show, [1, 2], first: 20) }.to raise_error(Loomshuttle::Invalid, /has 20 card returns, and 21 would be needed/)
    expect { made(show, [99], first: 1) }.to raise_error(Loomshuttle::Invalid, /no track 99/)
    expect { made(show, [], first: 1) }.to raise_error(Loomshuttle::Invalid, /at least one track/)
  end
end
