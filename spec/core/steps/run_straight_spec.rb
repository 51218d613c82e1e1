# frozen_string_literal: true

RSpec.describe Loomshuttle::Steps::RunStraight do
  def run(show, **words) = described_class.edit(show, **words).apply(show).first

  it "patches sockets to channels in ascending order from a start" do
    show = run(blank, column: "socket", first: 3, count: 4, start: 9)
    expect(named(show.channels.values_at(2, 3, 4, 5, 6, 7).map(&:stage))).to eq([nil, "desk/in/9", "desk/in/10", "desk/in/11", "desk/in/12", nil])
  end

  it "gives a stereo channel two lanes" do
    show = run(blank, column: "return", first: 16, count: 2, start: 16)
    expect(named(show.channels.values_at(16, 17).map(&:take))).to eq(["card/return/16", "card/return/17"])
  end

  it "gives a stereo track two lanes, and the next track those behind" do
    show = run(set(blank, "track/2/stereo" => true), column: "track_input", first: 1, count: 3, start: 5)
    expect(show.tracks.values_at(1, 2, 3).map(&:inputs)).to eq([[5], [6, 7], [8]])
  end

  it "runs sends over channels and track outputs over returns" do
    show = run(run(blank, column: "send", first: 1, count: 18, start: 1), column: "track_output", first: 1, count: 2, start: 19)
    expect(named(show.sends.values_at(16, 17, 18).map(&:source))).to eq(%w[desk/ch/16 desk/ch/17/l desk/ch/17/r])
    expect(show.tracks[2].outputs).to eq([20])
  end

  it "stays inside the device" do
    expect { run(blank, column: "socket", first: 10, count: 9, start: 1) }.to raise_error(Loomshuttle::Invalid, /leaves the desk: it has 17/)
    expect { run(blank, column: "track_input", first: 1, count: 4, start: 18) }.to raise_error(Loomshuttle::Invalid, /leaves the device: it has 20 card sends/)
    expect { run(blank, column: "socket", first: 0, count: 2, start: 1) }.to raise_error(Loomshuttle::Invalid, /leaves the desk/)
    expect { run(blank, column: "nonsense", first: 1, count: 2, start: 1) }.to raise_error(Loomshuttle::Invalid, /Patch in order knows/)
  end

  it "starts at a socket by its name" do
    show = run(chained("hazel-56"), column: "socket", first: 2, count: 3, start: "link/a/up/16")
    expect(named((2..4).map { |n| show.layout.socket_of(show.channels[n].stage) })).to eq(["box-a/in/16", "box-b/in/1", "box-b/in/2"])
    expect { run(chained, column: "socket", first: 1, count: 1, start: "desk/in/13") }.to raise_error(Loomshuttle::Invalid, %r{cannot start at desk/in/13})
  end

  it "is ascending and inside the device on random rigs, or refused" do
    40.times do |seed|
      random_rig = RandomRig.new(seed)
      show, random = random_rig.show, random_rig.random
      first, count, start = Array.new(3) { random.rand(1..30) }
      after = run(show, column: "socket", first: first, count: count, start: start)
      there = show.layout.sources.reject(&:missing).map(&:point)
      places = (first...(first + count)).map { |n| there.index(after.channels[n].stage) }
      expect(places.each_cons(2)).to all(satisfy { |one, next_one| next_one > one }), "seed #{seed}"
      expect(places.first).to eq(start - 1)
    rescue Loomshuttle::Invalid => e
      expect(e.message).to match(/leaves the d|blocks of|free slots|odd lane/)
    end
  end

  it "is ascending and inside the device for any range that it accepts" do
    random = Random.new(11)
    100.times do
      first, count, start = random.rand(1..20), random.rand(1..20), random.rand(1..20)
      next if first + count > 21 || start + count > 21

      lanes = run(blank, column: "track_input", first: first, count: count, start: start).tracks.values.flat_map(&:inputs)
      expect(lanes).to eq((start...(start + count)).to_a)
    end
  end
end

RSpec.describe Loomshuttle::Steps::Flip do
  it "moves all channels that have a take source, and names none without" do
    edit = described_class.edit(straight(3), to: "take")
    expect(edit.settings).to eq("channel/1/position" => "take", "channel/2/position" => "take", "channel/3/position" => "take")
  end

  it "returns every channel to stage" do
    expect(described_class.edit(straight(3), to: "stage").settings.values.uniq).to eq(["stage"])
  end

  it "counts the channels that really move" do
    partly = set(straight(3), "channel/2/position" => "take")
    expect(described_class.edit(partly, to: "stage").label).to eq("Source 2 to stage")
    expect(described_class.edit(partly, to: "take").label).to eq("2 channels to take")
    expect(described_class.edit(straight(3), to: "stage").label).to eq("All channels to stage")
    expect(findings(partly).find { |one| one.check == "left-on-take" }.fix.label).to eq("Source 2 to stage")
  end

  it "moves only channels that hear a track of the take" do
    show = set(straight(4), "track/1/outputs" => [4], "track/4/outputs" => [], "track/3/stereo" => false)
    expect(described_class.edit(show, to: "take", tracks: [1, 2]).settings.keys).to eq(["channel/2/position", "channel/4/position"])
    expect { described_class.edit(show, to: "take", tracks: [4, 99]) }.to raise_error(Loomshuttle::Invalid, /with a track of this take/)
  end

  it "says which channel cannot go to take" do
    expect { described_class.edit(straight(3), to: "take", channels: [1, 9]) }.to raise_error(Loomshuttle::Invalid, /Channel 9 has no take source/)
    expect { described_class.edit(blank, to: "take") }.to raise_error(Loomshuttle::Invalid, /No channel has a take source/)
  end
end

RSpec.describe Loomshuttle::Views::Choices do
  it "offers only what fits, and marks what is set" do
    show = straight
    sockets = described_class.for(show, "hears_on_stage", 17).map(&:label)
    expect(sockets).to include("Line 1", "In 1").and not_include("In 2")
    expect(described_class.for(show, "hears_on_stage", 4).find(&:current).label).to eq("In 4")
  end

  it "takes a tap away that a mix does not have" do
    choice = described_class.for(set(straight, "send/1/tap" => "post-eq"), "send", 1).find { |one| one.label == "Main L" }
    expect(choice.settings).to eq("send/1/source" => "desk/main/l", "send/1/tap" => nil)
  end

  it "names sockets that the patch knows and the rig lacks, last, with the reason" do
    choices = described_class.for(chained, "hears_on_stage", 3)
    expect(choices[1].label).to eq("Box A in 1 (link A, lane 1)")
    missing = choices.select(&:missing).to_h { |choice| [choice.settings.values.first, choice.missing] }
    expect(missing).to include("desk/in/13" => "the Alder 40 has only 12 In sockets", "link/a/up/33" => "no box on port A reaches lane 33",
                               "link/b/up/1" => "no box is connected to port B")
    expect(choices.index(&:missing)).to eq(choices.size - missing.size)
  end

  it "can all be applied, each on its own" do
    show = set(straight, "track/18/stereo" => true)
    described_class::COLUMNS.each_key do |column|
      (1..[17, cells(show, column)].min).each { |n| described_class.for(show, column, n).each { |choice| expect { set(show, choice.settings) }.not_to raise_error } }
    end
  end

  RSpec::Matchers.define_negated_matcher :not_include, :include
end
