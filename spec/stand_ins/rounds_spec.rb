# frozen_string_literal: true

# A desk that reuses the last round's output sends the same as one that computes every step.
RSpec.describe Loomshuttle::StandIns::Desk::Rounds, :folder do
  let(:model) { Loomshuttle::StandIns::Desk::Model.new(JSON.parse(File.read(File.join(Loomshuttle::ROOT, "demo", "rig.json"))), File.join(Loomshuttle::ROOT, "profiles")) }
  let(:round) { RoundStage.new(model.sockets.size, 4800) }
  let(:endless) { RoundStage.new(model.sockets.size, 4800).tap { |one| allow(one).to receive(:frames).and_return(0) } }
  let(:units) { [round, endless].map { |players| desk(players) } }
  let(:packets) { {} }
  let(:levels) { {} }

  def desk(players)
    sent, told = (packets[players] = []), (levels[players] = [])
    unit = Loomshuttle::StandIns::Desk::Unit.new(model, ports: { sends: 1, returns: 2 }, card: ->(*packet) { sent << packet }, reply: ->(*) {}, now: -> { 0.0 }, stage: players)
    allow(unit.control).to receive(:tell_meters) { |*blob| told << blob }
    Loomshuttle::StandIns::Desk::Memory.new(File.join(@folder, "desk.json"), unit.settings, first: File.join(Loomshuttle::ROOT, "demo", "desk.json"), aside: nil)
    unit
  end

  def run(steps) = steps.times { units.each(&:step) }

  def expect_alike
    expect(packets[round]).to eq(packets[endless])
    expect(levels[round]).to eq(levels[endless])
    one, other = units.map { |unit| unit.heard.transform_values(&:to_a).merge("mains" => unit.last.mains.to_a) }
    expect(one).to eq(other)
  end

  # Steps that the first desk did not compute.
  def spared = endless.reads - round.reads

  def play(unit)
    stream = unit.return_streams.first
    samples = Numo::Int32.from_binary(Random.new(unit.time).bytes(48 * stream.lanes * 4), [48, stream.lanes]) >> 12
    unit.card_in.push(0, Loomshuttle::Formats::Rtp.pack(sequence: 0, timestamp: unit.time, source: 1, payload: Loomshuttle::Audio::Pcm24.to_network(samples)))
  end

  it "does not compute what repeats" do
    run(60)
    expect(spared).to be >= 40
    expect_alike
  end

  # Each in the middle of a round, and of the 50 ms of the meters.
  { "a hand turns a fader" => ->(unit) { unit.settings.set("strip/3/fader", -7.0) },
    "a hand turns an equaliser" => ->(unit) { unit.settings.set("strip/3/tilt", 0.7) },
    "something happens on stage" => ->(unit) { unit.happen("turn", "in/1") },
    "a cable is plugged" => ->(unit) { unit.cable({ "1" => "a.1/3" }) },
    "an output gets a delay" => ->(unit) { unit.settings.set("output/1/delay", 700) } }.each do |what, change|
    it "computes again when #{what}" do
      run(33)
      expect_alike
      run(4)
      units.each(&change)
      run(2)
      expect_alike
      run(40)
      expect_alike
    end
  end

  it "computes again when a card return starts, and when it stops" do
    units.each { |unit| unit.settings.set("block/1/hears", "take") }
    run(33)
    units.each { |unit| play(unit) }
    run(2)
    expect_alike
    run(40)
    expect_alike
  end

  it "keeps nothing while an output is delayed, since its delay holds sound of long ago" do
    units.each { |unit| unit.settings.set("output/1/delay", 700) }
    run(40)
    expect(spared).to be_zero
    units.each { |unit| unit.settings.set("output/1/delay", 0) }
    run(40)
    expect(spared).to be >= 20
    expect_alike
  end

  it "keeps no more than a round" do
    rounds = described_class.new(10)
    100.times { |nth| rounds.look(nth, [1]) || rounds.keep(nth, nth, nil) }
    expect(rounds.look(100, [1]).payloads).to be_between(0, 20)
    expect(rounds.look(101, [2])).to be_nil
    expect(rounds.look(102, [2])).to be_nil
  end
end
