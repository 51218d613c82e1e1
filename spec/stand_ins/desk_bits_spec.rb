# frozen_string_literal: true

require "digest"

# What the desk costs may change, what it does may not: the digest is of the desk as it was before its sums were made cheaper (0.9.0), with noise
# from a seed at every socket and return, and hands on faders, equalisers, mutes, pans and patches. Whole samples of 24 bits, so that the last bit of the C
# library's powers has no say.
RSpec.describe Loomshuttle::StandIns::Desk::Unit, :folder do
  let(:model) { Loomshuttle::StandIns::Desk::Model.new(JSON.parse(File.read(File.join(Loomshuttle::ROOT, "demo", "rig.json"))), File.join(Loomshuttle::ROOT, "profiles")) }
  let(:random) { Random.new(5) }
  let(:digest) { Digest::SHA256.new }
  let(:stage) { instance_double(Loomshuttle::StandIns::Stage::PlayersOnStage) }

  before do
    allow(stage).to receive(:read) do |_, frames|
      bytes = random.bytes(frames * model.sockets.size * 2)
      Numo::DFloat.cast(Numo::Int16.from_binary(bytes, [model.sockets.size, frames])).transpose / 500_000
    end
  end

  def desk
    unit = described_class.new(model, ports: { sends: 1, returns: 2 }, card: ->(_, bytes) { digest << bytes }, reply: ->(*) {}, now: -> { 0.0 }, stage: stage)
    aside = Loomshuttle::Runtime::Aside.new(@folder)
    Loomshuttle::StandIns::Desk::Memory.new(File.join(@folder, "desk.json"), unit.settings, first: File.join(Loomshuttle::ROOT, "demo", "desk.json"), aside: aside)
    unit
  end

  # A hand somewhere, at each step.
  def turn(settings, nth)
    channel = 1 + (nth % 30)
    settings.set("strip/#{channel}/fader", -(nth % 40).to_f)
    settings.set("strip/#{channel}/tilt", (nth % 9) / 10.0) if (nth % 3).zero?
    settings.set("strip/#{channel}/mute", nth.odd? ? 1 : 0) if (nth % 5).zero?
    settings.set("strip/#{channel}/bus/#{1 + (nth % 8)}", -(nth % 30).to_f)
    settings.set("bus/#{1 + (nth % 8)}/tilt", (nth % 7) / 10.0) if (nth % 4).zero?
    settings.set("strip/#{channel}/hears", (nth % 11).zero? ? "take" : "stage") if model.flip == "strip"
  end

  def returns(unit)
    unit.return_streams.each_with_index do |stream, index|
      samples = Numo::Int32.from_binary(random.bytes(48 * stream.lanes * 4), [48, stream.lanes]) >> 12
      unit.card_in.push(index, Loomshuttle::Formats::Rtp.pack(sequence: 0, timestamp: unit.time, source: 1, payload: Loomshuttle::Audio::Pcm24.to_network(samples)))
    end
  end

  it "puts out the same bits" do
    unit = desk
    60.times do |nth|
      turn(unit.settings, nth)
      returns(unit)
      unit.step
      [unit.last.outputs, unit.last.mains].each { |block| digest << Loomshuttle::Audio::Pcm24.from_float(block.dup).to_binary }
    end
    expect(digest.hexdigest[0, 20]).to eq("c1a2eaf7e9003aa62433")
  end
end
