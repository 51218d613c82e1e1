# frozen_string_literal: true

RSpec.describe Loomshuttle::Hearing::Heard do
  let(:signal) { Loomshuttle::Signal }
  let(:hearing) { Loomshuttle::Hearing }
  let(:show) do
    set(blank("alder-40"), "channel/1/name" => "Click", "channel/2/name" => "Tuba", "channel/1/stage" => "desk/in/1", "channel/2/stage" => "desk/in/2",
                           "output/1/source" => "desk/bus/1", "output/2/source" => "desk/bus/2", "output/3/source" => "desk/main/l", "output/4/source" => "desk/main/r",
                           "output/5/source" => "desk/bus/1", "output/5/delay" => 48, "personal/1/source" => "card/return/7")
  end
  let(:mix) { { "channel/1/send/1" => -7, "channel/2/fader" => -3, "channel/1/send/2" => 0, "channel/2/send/2" => -20, "bus/2/mute" => true } }
  let(:listeners) { [listener("drummer", 1), listener("pa", 3, 4), listener("muted", 2), hearing::Listener.new(id: "twice", ears: [outputs(1, 5)])] }

  def outputs(*numbers) = numbers.map { |number| point("desk/output/#{number}") }
  def listener(id, *numbers) = hearing::Listener.new(id: id, ears: numbers.map { |number| outputs(number) })

  def board(show, values)
    graph = signal.build(show)
    sources = { "click" => "desk/in/1", "tuba" => "desk/in/2", "return" => "card/return/7" }.map { |id, at| hearing::Source.at(graph, id, point(at)) }
    [hearing::Board.of(graph, signal::Levels.mixed(show, MixHelp.values(show, values)), sources.flat_map { |source| source.entries.map(&:point) }.uniq), sources]
  end

  def heard(show, values, listeners) = described_class.new(*board(show, values), listeners)
  def table(heard) = listeners.each_index.map { |to| (0..1).map { |from| heard.decibels(from, to)&.round(2) } }

  it "tells how loud each source is for each listener, and silence as such" do
    expect(table(heard(show, mix, listeners))).to eq([[-7.0, nil], [nil, -3.0], [nil, nil], [-3.99, nil]])
  end

  it "adds ways that take the same time as amplitudes, and those that do not as powers" do
    both = [hearing::Listener.new(id: "same", ears: [outputs(1, 6)]), listeners.last]
    same = set(show, "output/6/source" => "desk/bus/1")
    found = heard(same, mix, both)
    expect([found.decibels(0, 0), found.decibels(0, 1)].map { |db| db.round(2) }).to eq([-0.98, -3.99])
    expect([found.counts[0, 0], found.counts[0, 1]]).to eq([2, 2])
    expect(found.arrivals(0, 1)).to eq([[[0, 10**(-7 / 20.0)], [48, 10**(-7 / 20.0)]]])
    turned = heard(set(same, "output/6/polarity" => true), mix, both)
    expect(turned.decibels(0, 0)).to be_nil
  end

  it "tells when the first of it arrives" do
    late = set(show, "output/1/delay" => 96)
    expect([heard(late, mix, listeners).delays[0, 0], heard(late, mix, listeners).delays[0, 3]]).to eq([96, 48])
    expect(heard(show, mix, listeners).delays[1, 0]).to be_nan
  end

  it "adds what enters at several places, each at its time" do
    twice = set(show, "channel/3/stage" => "desk/in/1", "channel/3/name" => "Click again")
    found = heard(twice, mix.merge("channel/3/send/1" => -7), listeners)
    expect(found.decibels(0, 0).round(2)).to eq(-0.98)
    expect(found.counts[0, 0]).to eq(2)
  end

  it "is on another board what it is from the beginning" do
    first, sources = board(show, mix)
    other = first.with(signal::Levels.mixed(show, MixHelp.values(show, mix.merge("bus/2/mute" => false, "channel/2/fader" => -90))))
    moved, again = described_class.new(first, sources, listeners).with(other), described_class.new(other, sources, listeners)
    expect([moved.powers, moved.counts]).to eq([again.powers, again.counts])
    expect(table(moved)).to eq([[-7.0, nil], [nil, nil], [0, -20.0], [-3.99, nil]])
  end

  it "hears a card return that goes past the mixer" do
    lane = [hearing::Listener.new(id: "lane", ears: [[point("desk/personal/1")]])]
    expect(heard(show, mix, lane).decibels(2, 0)).to eq(0)
  end

  it "counts no way past a closed fader, nor one that is muted" do
    entry = point("desk/ch/1@preamp")
    direct = set(show, "output/1/source" => "desk/ch/1")
    open, = board(direct, mix.merge("channel/1/fader" => 0))
    closed, = board(direct, mix.merge("channel/1/fader" => 0, "channel/1/mute" => true))
    expect([open, closed].map { |one| one.count(point("desk/output/1"), entry) }).to eq([1, 0])
  end

  # Such as a card return that a channel hears, where the channel itself is asked for, too.
  it "tells what enters on the way of something else from what it meets there" do
    two = [point("desk/ch/1@preamp"), point("desk/ch/1@pre-eq")]
    direct = set(show, "output/1/source" => "desk/ch/1")
    graph = signal.build(direct)
    loud = hearing::Board.of(graph, signal::Levels.mixed(direct, MixHelp.values(direct, mix.merge("channel/1/fader" => -6))), two)
    at = point("desk/output/1")
    expect(two.map { |entry| loud.amplitude(at, entry) }).to all(be_within(0.01).of(10**(-6 / 20.0)))
    expect(two.map { |entry| [loud.count(at, entry), loud.counts(at)[loud.column(entry)]] }).to eq([[1, 1], [1, 1]])
  end

  it "shows the way that carries most" do
    loud, = board(set(show, "output/1/source" => "desk/matrix/1"), mix.merge("matrix/1/bus/1" => -20, "matrix/1/bus/2" => 0, "bus/2/mute" => false))
    names = loud.loudest(point("desk/output/1"), point("desk/ch/1@preamp")).map { |join| join.to.name }
    expect(names).to include("desk/bus/2@post-fader", "desk/matrix/1@post-fader").and end_with("desk/output/1")
    expect(loud.loudest(point("desk/output/4"), point("desk/ch/1@preamp"))).to eq([])
  end

  # f = (2k + 1) / (2 dt): 1 ms apart is weakest at 500, 1500 and 2500 Hz.
  it "knows where a comb is weakest" do
    expect(hearing::Comb.notches(48, 48_000)).to eq([500.0, 1500.0, 2500.0])
  end

  it "is after any fader what it is from the beginning, and as loud as a walk of every way, over random rigs" do
    12.times do |seed|
      rig = RandomRig.new(seed)
      show, random = rig.show, rig.random
      graph = signal.build(show)
      entries = show.channels.keys.sample(8, random: random).flat_map { |n| show.profile.channel_points(n) }.map { |base| base.at("channel-in") }
      first = MixHelp.values(show, MixHelp.random(show, random, 200))
      second = first.merge(MixHelp.random(show, random, 12))
      before = signal::Levels.mixed(show, first)
      turned = before.turned(show, second, second.keys.reject { |name| first[name] == second[name] })
      expect(turned.amplitudes).to eq(signal::Levels.mixed(show, second).amplitudes)
      changed = hearing::Board.of(graph, before, entries).with(turned)
      again = hearing::Board.of(graph, signal::Levels.mixed(show, second), entries)
      walked = entries.to_h { |entry| [entry, signal::Reach.amplitudes(graph, signal::Levels.mixed(show, second), entry)] }
      show.outputs.each_value do |output|
        entries.each do |entry|
          at = point("desk/output/#{output.number}")
          wanted = walked.fetch(entry).fetch(at, 0.0)
          expect([changed.amplitude(at, entry), again.amplitude(at, entry)]).to all(be_within(1e-12).of(wanted)), "#{at} of seed #{seed}"
        end
      end
    end
  end
end
