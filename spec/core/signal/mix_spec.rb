# frozen_string_literal: true

RSpec.describe Loomshuttle::Signal::Mix do
  let(:signal) { Loomshuttle::Signal }
  let(:show) { set(blank("alder-40"), "channel/1/name" => "Tuba", "channel/1/stage" => "desk/in/1") }

  def into(show, mix) = signal.build(show).into(point("#{mix}@pre-eq")).map { |join| join.from.name }

  it "makes joins that shows share which mix alike, and others for those that do not" do
    shared = signal.build(set(show, "channel/1/gain" => 12)).from(point("desk/ch/1@pre-eq"))
    expect(signal.build(show).from(point("desk/ch/1@pre-eq"))).to equal(shared)
    expect(signal.build(set(show, "bus/1/tap" => "post-eq")).from(point("desk/ch/1@pre-eq"))).not_to equal(shared)
  end

  it "keeps few of them, however often a mix changes" do
    desk = show.profile
    8.times { |n| signal.build(set(show, "bus/#{n + 1}/main" => true)) }
    expect(desk.memo(:mix_joins).size).to be <= 4
  end

  it "takes sends where the bus says, or the send itself" do
    taken = set(show, "bus/2/tap" => "channel-in", "channel/1/send_taps" => { "2" => "post-fader" })
    expect(into(taken, "desk/bus/2").first(2)).to eq(%w[desk/ch/1@post-fader desk/ch/2@channel-in])
  end

  it "has channels in a subgroup only where they are in it" do
    group = set(show, "bus/2/mode" => "subgroup", "bus/2/tap" => "pre-eq", "channel/1/groups" => [2], "channel/9/groups" => [2])
    expect(into(group, "desk/bus/2")).to eq(%w[desk/ch/1@post-fader desk/ch/9@post-fader])
  end

  it "lets the left bus of a pair speak for both" do
    pair = set(show, "bus/3/paired" => true, "bus/3/mode" => "subgroup", "channel/1/groups" => [3], "bus/3/main" => true, "channel/1/main" => false)
    expect([into(pair, "desk/bus/3"), into(pair, "desk/bus/4")]).to all(eq(%w[desk/ch/1@post-fader]))
    mixed = signal::Levels.mixed(pair, MixHelp.values(pair, "channel/1/fader" => 0, "channel/1/pan" => 1, "bus/3/fader" => -4))
    reached = signal::Reach.amplitudes(signal.build(pair), mixed, point("desk/ch/1@pre-fader"))
    expect(reached.transform_keys(&:name)).to include("desk/bus/4@post-fader" => be_within(1e-9).of(0.630957344), "desk/main/r@post-fader" => be_within(1e-9).of(0.630957344))
    expect(named(reached)).not_to include("desk/bus/3@post-fader", "desk/main/l@post-fader")
  end

  it "takes who is not on main off it, and turns over who is turned" do
    changed = set(show, "channel/1/main" => false, "channel/2/polarity" => true)
    expect(into(changed, "desk/main/l")).to start_with("desk/ch/2@post-fader")
    mixed = signal::Levels.mixed(changed, MixHelp.values(changed, "channel/2/fader" => 0, "channel/2/pan" => -1))
    expect(signal::Reach.amplitudes(signal.build(changed), mixed, point("desk/ch/2@channel-in"))[point("desk/main/l@post-fader")]).to eq(-1.0)
  end

  # Constant power: cos² + sin² = 1; 3.01 dB less on each side in the middle (common practice, no published source).
  it "pans by the law that the profile names" do
    pans = [-1, -0.5, 0, 0.3, 1].map { |at| %w[l r].map { |side| 10**(signal::Pan.mono(at, side, 1) / 20) } }
    expect(pans.map { |left, right| (left**2) + (right**2) }).to all(be_within(1e-9).of(1))
    expect(signal::Pan.mono(0, "l", 1).round(2)).to eq(-3.01)
    expect([1.5, 2].map { |power| signal::Pan.mono(0, "r", power).round(2) }).to eq([-4.52, -6.02])
    sums = [-0.7, 0, 0.4].map { |at| %w[l r].sum { |side| 10**(signal::Pan.mono(at, side, 2) / 20) } }
    expect(sums).to all(be_within(1e-9).of(1))
  end

  it "knows nothing of a mix that is not told, but that what is muted is silent" do
    partly = signal::Levels.mixed(show, "channel/1/mute" => true)
    graph = signal.build(show)
    expect(partly.gain_db(graph.into(point("desk/ch/1@post-fader")).first)).to eq(-Float::INFINITY)
    expect(partly.gain_db(graph.into(point("desk/ch/2@post-fader")).first)).to be_nil
  end
end
