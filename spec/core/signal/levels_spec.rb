# frozen_string_literal: true

RSpec.describe Loomshuttle::Signal::Levels do
  let(:signal) { Loomshuttle::Signal }
  let(:show) do
    set(straight, "channel/4/gain" => 31, "setup/own_mix" => [19, 20], "track/8/inputs" => [], "track/8/outputs" => [], "track/8/armed" => false,
                  "track/7/stereo" => true, "track/7/inputs" => [7, 8], "track/7/outputs" => [7, 8])
  end
  let(:graph) { signal.build(show) }
  let(:mixed) { described_class.mixed(show, MixHelp.values(show, "channel/4/fader" => -6, "channel/5/fader" => 0, "channel/4/send/2" => -10)) }

  def decibels(levels, from, to) = 20 * Math.log10(signal::Reach.amplitudes(graph, levels, point(from)).fetch(point(to)))

  it "lie beside a structure that is the same object for every show on a desk" do
    shared = signal.build(set(show, "channel/4/gain" => 12)).from(point("desk/ch/4@pre-eq"))
    expect(graph.from(point("desk/ch/4@pre-eq"))).to equal(shared)
  end

  it "say how loud a source arrives, and another fader makes no other graph" do
    expect(decibels(mixed, "desk/in/4", "card/send/4")).to be_within(1e-9).of(31)
    expect(decibels(mixed, "desk/in/4", "desk/main/l@post-fader")).to be_within(1e-9).of(31 - 6 - (10 * Math.log10(2)))
    expect(decibels(mixed.with([:fader, 4] => -20), "desk/in/4", "desk/main/l@post-fader")).to be_within(1e-9).of(31 - 20 - (10 * Math.log10(2)))
    expect(decibels(mixed, "desk/in/4", "desk/bus/2@post-fader")).to be_within(1e-9).of(21)
    expect(decibels(mixed.with([:master, point("desk/bus/2")] => 3), "desk/in/4", "desk/bus/2@post-fader")).to be_within(1e-9).of(24)
  end

  it "carry nothing where a fader is down, and nothing to a bus that is sent nothing" do
    reached = signal::Reach.amplitudes(graph, mixed, point("desk/in/6"))
    expect(named(reached)).not_to include("desk/main/l@post-fader", "desk/bus/2@post-fader")
  end

  it "know a plan's preamps, and nothing of a mix" do
    planned = described_class.planned(show)
    expect(planned.gain_db(graph.into(point("desk/ch/4@preamp")).first)).to eq(31)
    expect(graph.from(point("desk/ch/4@pre-fader")).map { |join| planned.gain_db(join) }).to all(be_nil)
  end

  it "let every point of a show with the recorder mix be heard from" do
    on_take = set(show, "channel/3/position" => "take")
    graph = signal.build(on_take)
    graph.points.each { |point| signal::Reach.amplitudes(graph, mixed, point) }
    expect(decibels(mixed, "track/3/out", "card/return/19")).to be_within(1e-9).of(-10 * Math.log10(2))
  end

  it "keep the sides of a stereo track apart in the recorder mix" do
    left = signal::Reach.amplitudes(graph, mixed, point("track/7/out/l"))
    expect([left[point("card/return/19")], left[point("card/return/20")]]).to eq([1.0, nil])
    expect(signal::Reach.amplitudes(graph, mixed, point("track/7/out/r"))[point("card/return/20")]).to eq(1.0)
  end
end
