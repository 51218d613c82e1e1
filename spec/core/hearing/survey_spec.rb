# frozen_string_literal: true

RSpec.describe Loomshuttle::Hearing::Survey do
  def show(changed = {}) = HearingHelp.show(changed)
  def survey(show, mixed = {}) = HearingHelp.survey(show, mixed)
  def level(survey, source, listener) = survey.figure(source, listener).db&.round(2)

  let(:mix) { { "channel/1/fader" => -4, "channel/1/send/1" => -9, "channel/2/send/2" => -7 } }

  it "tells for everybody how loud, how late and by how many ways" do
    found = survey(show("output/1/delay" => 96), mix)
    expect([1, 2, 3].map { |listener| level(found, "channel/1", listener) }).to eq([-4.0, -9.0, nil])
    expect([1, 2, 3].map { |listener| level(found, "channel/2", listener) }).to eq([nil, nil, -7.0])
    expect(found.figure("channel/1", 2)).to have_attributes(ms: 2.0, ways: 1)
    expect(found.figure("channel/1", 3)).to have_attributes(db: nil, ms: nil, ways: 0)
    expect([found.figure("channel/9", 1), found.figure("channel/1", 9)]).to eq([nil, nil])
  end

  it "counts what a box adds on its way out" do
    plain = CoreHelp.chained
    boxed = set(plain, "channel/1/stage" => "link/a/up/1", "channel/1/name" => "Fiddle", "output/1/source" => "desk/bus/1", "outlet/out-1/first" => nil,
                       "outlet/out-2/first" => nil, "outlet/a-1/first" => 1, "listener/order" => [1], "listener/1/hears" => ["desk/output/1"])
    sockets = boxed.sockets_of_output(1)
    delay = Loomshuttle::Signal.build(boxed).into(sockets.find(&:box?)).first.delay
    inside = Loomshuttle::Signal.build(boxed).joins.find { |join| join.to == point("link/a/up/1") }.delay
    wanted = Loomshuttle::Timing::Latency.ms(inside + [delay, *(0 if sockets.any? { |socket| !socket.box? })].min, 48_000)
    expect(survey(boxed, "channel/1/send/1" => 0).figure("channel/1", 1).ms).to be_within(1e-9).of(wanted)
  end

  it "is after any fader what it is from the beginning" do
    before = survey(show, mix)
    values = MixHelp.values(show, mix.merge("channel/1/fader" => -10, "channel/2/send/1" => -20, "bus/2/mute" => true))
    turned, again = before.turned(values), described_class.of(show, values)
    pairs = before.sources.map(&:id).product([1, 2, 3])
    expect(pairs.map { |pair| turned.figure(*pair) }).to eq(pairs.map { |pair| again.figure(*pair) })
    expect(level(turned, "channel/2", 2)).to eq(-20)
    expect(before.turned(before.values)).to equal(before)
  end

  it "hears a socket once by all channels that hear it, a stereo channel as loud as its sides, and a card return past the mixer" do
    twice = survey(show("channel/3/name" => "Fiddle, wet", "channel/3/stage" => "desk/in/1"), mix.merge("channel/3/send/1" => -9))
    expect(twice.sources.map(&:id)).to eq(%w[channel/1 channel/2])
    expect(level(twice, "channel/1", 2)).to eq(-2.98)
    direct = survey(show("output/3/source" => "card/return/7", "listener/3/hears" => ["desk/output/3"], "track/7/outputs" => [7], "track/7/name" => "Strings"), mix)
    expect(direct.sources.last).to have_attributes(id: "return/7", title: "Strings", number: nil)
    expect(level(direct, "return/7", 3)).to eq(0)
  end

  it "hears on take what the take sends back" do
    flipped = survey(show((1..8).flat_map { |n| [["channel/#{n}/take", "card/return/#{n}"], ["channel/#{n}/position", "take"]] }.to_h), mix)
    expect(flipped.source("channel/1").source.entries.map { |entry| entry.point.name }).to eq(["card/return/1"])
    expect(level(flipped, "channel/1", 2)).to eq(-9)
  end

  it "knows what an audience should never hear by its name" do
    names = { "Click" => "click", "Clicks from harbour" => nil, "Guide voice" => "guide", "Cue track" => "guide", "Pilot 1k" => "pilot", "Fiddle" => nil }
    expect(names.keys.map { |name| survey(show("channel/2/name" => name)).source("channel/2").cue }).to eq(names.values)
  end

  # f = (2k + 1) / (2 dt): 1 ms apart.
  it "tells where a source that arrives twice is weakest" do
    late = survey(show("output/5/source" => "desk/bus/1", "output/5/delay" => 48, "listener/2/hears" => %w[desk/output/1 desk/output/5]), mix)
    expect(late.notches("channel/1", 2)).to eq([500.0, 1500.0, 2500.0])
    expect(survey(show, mix).notches("channel/1", 2)).to eq([])
  end

  # Equal amplitudes double: 20 log 2 = 6.02 dB. The power of main left and right counts each ear on its own.
  it "tells what a second way of the same length adds, without a comb, and what one of opposite polarity takes" do
    group = { "bus/3/mode" => "subgroup", "bus/3/main" => true, "channel/1/groups" => [3] }
    both = survey(show(group), mix.merge("channel/1/fader" => 0, "bus/3/fader" => 0))
    expect([both.added_db("channel/1", 1).round(2), both.notches("channel/1", 1)]).to eq([6.02, []])
    less = survey(show(group), mix.merge("channel/1/fader" => 0, "bus/3/fader" => -20))
    expect(less.added_db("channel/1", 1)).to be_within(0.01).of(20 * Math.log10(1.1))
    against = show("channel/3/name" => "Fiddle, turned", "channel/3/stage" => "desk/in/1", "channel/3/polarity" => true)
    expect(survey(against, "channel/1/fader" => 0, "channel/3/fader" => -6.0206).added_db("channel/1", 1)).to be_within(0.01).of(20 * Math.log10(0.5))
    expect([survey(show, mix).added_db("channel/1", 2), survey(show, mix).added_db("channel/1", 3)]).to eq([nil, nil])
  end

  it "takes the time of the box that an output reaches, not of a link without boxes" do
    down_a = { "channel/1/name" => "Fiddle", "output/1/source" => "desk/bus/1", "listener/order" => [1], "listener/1/hears" => ["desk/output/1"],
               **%w[out-1 out-2 lineout-1 aes-1].to_h { |block| ["outlet/#{block}/first", nil] }, "outlet/a-1/first" => 1 }
    at = ->(changed) { survey(set(CoreHelp.chained, down_a.merge(changed)), "channel/1/send/1" => 0) }
    plain, more = at.call({}), at.call("outlet/b-1/first" => 1)
    expect(more.figure("channel/1", 1).ms).to eq(plain.figure("channel/1", 1).ms)
    ends = Loomshuttle::Hearing::Way.hops(more, "channel/1", 1).last.hop
    expect(ends.point).to be_box
    text = Loomshuttle::Signal::Story.new(more.show, more.graph, more.levels).through(point("link/b/down/1")).first.last
    expect([text.text, text.live]).to eq(["no box takes this lane", false])
  end

  it "shows the way from the socket to where it comes out, each step with what turns it" do
    way = Loomshuttle::Hearing::Way
    found = survey(show, mix)
    expect(named(way.points(found, "channel/1", 2))).to eq(%w[desk/in/1 desk/ch/1@pre-fader desk/bus/1@post-fader desk/output/1 desk/out/1])
    hops = way.hops(found, "channel/1", 2)
    expect(hops.map { |hop| [hop.hop.point.name, hop.db, hop.total_db, hop.value] }).to include(
      ["desk/in/1", nil, nil, nil], ["desk/bus/1@pre-eq", -9, -9, "channel/1/send/1"], ["desk/bus/1@post-fader", 0, -9, "bus/1/fader"], ["desk/output/1", 0, -9, "output/1/trim"]
    )
    expect(hops.find { |hop| hop.hop.point.name == "desk/output/1" }.setting).to eq("output/1/source")
    expect(way.hops(found, "channel/1", 3)).to eq([])
  end

  it "tells who would hear something else, what comes and goes first" do
    before = survey(show, mix)
    after = before.turned(before.values.merge("channel/1/send/1" => -90, "channel/1/fader" => -10, "channel/2/send/2" => -7.3))
    expect(Loomshuttle::Hearing::Difference.between(before, after).map(&:to_h)).to eq(
      [{ source: "Fiddle", listener: "Ada", from: -9.0, to: nil }, { source: "Fiddle", listener: "PA", from: -4.0, to: -10.0 }]
    )
  end
end
