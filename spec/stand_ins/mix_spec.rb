# frozen_string_literal: true

# What the stand-in desk's mixing makes of known samples, figure by figure.
RSpec.describe Loomshuttle::StandIns::Desk::Mixer do
  # Each socket has its own constant level, from a given sample on.
  let(:stage) do
    Class.new do
      attr_accessor :levels, :from

      def read(time, frames)
        block = Numo::DFloat.zeros(frames, 12)
        levels.each { |socket, level| block[true, socket - 1] = Numo::DFloat[*(0...frames).map { |at| time + at >= from ? level : 0.0 }] }
        block
      end
    end.new.tap { |stage| stage.levels, stage.from = { 1 => 0.1, 2 => 0.05 }, 0 }
  end
  let(:desk) do
    Loomshuttle::StandIns::Desk::Unit.new(VirtualRig.model({ "desk" => "alder-40" }), ports: { sends: 5000, returns: 6000 }, now: -> { 0.0 }, stage: stage,
                                                                                      card: ->(*) {}, reply: ->(*) {})
  end

  before do
    set("block/1/stage" => "in/1", "strip/1/gain" => 0.0, "strip/2/gain" => 0.0, "output/1/from" => "bus/1", "output/2/from" => "main/l", "output/3/from" => "main/r")
    (1..40).each { |number| set("strip/#{number}/tilt" => 0.0, "strip/#{number}/fader" => -90.0) }
  end

  def set(values) = values.each { |address, value| desk.settings.set(address, value) }

  # Settled level of an output against 0.1, in dB; nil for silence.
  def level(output, against: 0.1)
    2.times { desk.step }
    sample = desk.last.outputs[-1, output - 1]
    sample.zero? ? nil : (20 * Math.log10(sample.abs / against)).round(2)
  end

  it "sends at a level, from the tap that is chosen" do
    set("strip/1/bus/1" => -6.0, "strip/1/fader" => -20.0)
    expect(level(1)).to eq(-6)
    set("strip/1/bus/1/tap" => "post-fader")
    expect(level(1)).to eq(-26)
    set("strip/1/bus/1/tap" => "channel-in")
    expect(level(1)).to eq(-6)
  end

  it "gives a bus its fader and mute, and takes an output from before them where it says so" do
    set("strip/1/bus/1" => 0.0, "bus/1/fader" => -3.0)
    expect(level(1)).to eq(-3)
    set("output/1/tap" => "pre-fader", "bus/1/mute" => 1)
    expect(level(1)).to eq(0)
    set("output/1/tap" => "post-fader")
    expect(level(1)).to be_nil
  end

  it "lets the channel's fader alone decide in a subgroup" do
    set("bus/1/mode" => "subgroup", "strip/1/bus/1" => -40.0, "strip/1/fader" => -5.0)
    expect(level(1)).to be_nil
    set("strip/1/bus/1/on" => 1)
    expect(level(1)).to eq(-5)
  end

  it "pans with constant power, by the profile's law" do
    set("strip/1/fader" => 0.0)
    expect([level(2), level(3)]).to eq([-3.01, -3.01])
    set("strip/1/pan" => -1.0)
    expect([level(2), level(3)]).to eq([0, nil])
    set("strip/1/pan" => 0.5)
    left, right = [level(2), level(3)].map { |db| 10**(db / 10.0) }
    expect(left + right).to be_within(0.005).of(1)
  end

  it "spreads a send over a pair of buses by the channel's pan, and what they are in main left and right" do
    set("bus/1/pair" => 1, "strip/1/bus/1" => 0.0, "strip/1/bus/2" => -50.0, "strip/1/pan" => 1.0, "output/4/from" => "bus/2", "bus/1/main" => 1)
    expect([level(1), level(4), level(2), level(3)]).to eq([nil, 0, nil, 0])
    set("bus/1/mute" => 1)
    expect(level(4)).to be_nil
  end

  it "puts a bus on main by its pan, and takes a channel off it" do
    set("strip/1/fader" => 0.0, "strip/1/main" => 0, "strip/1/bus/1" => 0.0)
    expect(level(2)).to be_nil
    set("bus/1/main" => 1)
    expect(level(2)).to eq(-3.01)
    set("main/fader" => -10.0)
    expect(level(2)).to eq(-13.01)
  end

  it "adds with the sign that the polarity gives" do
    set("strip/1/bus/1" => 0.0, "strip/2/bus/1" => 0.0)
    expect(level(1)).to eq((20 * Math.log10(1.5)).round(2))
    set("strip/2/polarity" => 1)
    expect(level(1)).to eq((20 * Math.log10(0.5)).round(2))
  end

  it "silences a muted channel from the tap on that the profile names" do
    set("strip/1/bus/1" => 0.0, "strip/1/mute" => 1)
    expect(level(1)).to be_nil
    set("strip/1/bus/1/tap" => "post-eq")
    expect(level(1)).to eq(0)
  end

  it "mixes matrices of buses and mains" do
    set("strip/1/bus/1" => 0.0, "output/5/from" => "matrix/2", "matrix/2/main/l" => -90.0, "matrix/2/main/r" => -90.0)
    expect(level(5)).to be_nil
    set("matrix/2/bus/1" => -7.0, "matrix/2/fader" => -2.0)
    expect(level(5)).to eq(-9)
  end

  it "puts out a channel, or a card return past the mixer" do
    set("output/6/from" => "ch/2", "output/6/tap" => "pre-eq", "output/7/from" => "card/3")
    expect(level(6, against: 0.05)).to eq(0)
    payload = Loomshuttle::Audio::Pcm24.to_network(Loomshuttle::Audio::Pcm24.from_float(Numo::DFloat.zeros(480, 8).fill(0.025)))
    desk.card_in.push(0, Loomshuttle::Formats::Rtp.pack(sequence: 1, timestamp: desk.time, source: 1, payload: payload))
    desk.step
    expect(desk.last.outputs[10, 6]).to be_within(1e-6).of(0.025)
  end

  it "trims, turns and mutes an output, and delays it to the sample" do
    set("strip/1/bus/1" => 0.0, "output/1/trim" => -6.0, "output/1/polarity" => 1, "output/1/delay" => 1234)
    stage.from = 4800
    heard = Array.new(14) { desk.step.then { desk.last.outputs[true, 0] } }.reduce(:concatenate)
    expect(heard.ne(0).where[0]).to eq(4800 + 1234)
    expect(heard[-1]).to be_within(1e-4).of(-0.1 * (10**(-6 / 20.0)))
    set("output/1/mute" => 1, "output/1/delay" => 0)
    expect(level(1)).to be_nil
  end

  it "gives each personal lane its source and tap, on a socket of its own" do
    set("personal/9/from" => "ch/1", "personal/9/tap" => "post-fader", "strip/1/fader" => -12.0)
    desk.step
    expect(20 * Math.log10(desk.heard.fetch("personal/9")[-1] / 0.1)).to be_within(0.01).of(-12)
  end

  {
    ["output/1/from", "line/1"] => %r{no "line/1"}, ["output/1/delay", 24_001] => /0 to 24000/, ["output/1/trim", 19.0] => /-18 to 18/,
    ["bus/1/mode", "wet"] => /mix to subgroup/, ["bus/2/pair", 1] => %r{no bus/2/pair}, ["strip/1/pan", 1.2] => /-1 to 1/,
    ["strip/1/bus/1/tap", "preamp"] => /channel-in to post-fader/, ["personal/17/from", "bus/1"] => /no personal/
  }.each do |(address, value), reason|
    it("refuses #{value} for #{address}") { expect { desk.settings.set(address, value) }.to raise_error(Loomshuttle::StandIns::Desk::Settings::Refused, reason) }
  end

  it "refuses what a smaller desk does not have" do
    small = Loomshuttle::StandIns::Desk::Settings.new(VirtualRig.model({ "desk" => "rowan-10" }))
    expect { small.set("output/1/from", "card/1") }.to raise_error(/carries bus, main, and no card/)
    expect(small.addresses.grep(%r{bus/1/(mode|main|pair)|output/1/(delay|trim|polarity)})).to eq(%w[bus/1/pair])
  end
end
