# frozen_string_literal: true

RSpec.describe Loomshuttle::Hearing::Press do
  let(:desk) { CoreHelp::CATALOG.fetch("desk", "alder-40") }
  let(:names) { Loomshuttle::Hearing::LevelNames }

  it "takes what a fader, a send, a pan, a mute or a trim can be" do
    values = { "channel/40/fader" => 10, "channel/1/send/14" => -90.0, "channel/1/pan" => -1, "bus/14/mute" => true, "output/1/trim" => -6.5,
               "matrix/4/main/l" => 0, "main/fader" => -3 }
    expect(described_class.check(desk, values)).to eq(values)
  end

  { { "channel/41/fader" => 0 } => %r{no level "channel/41/fader"}, { "channel/1/fader" => 10.1 } => /cannot be 10.1/, { "channel/1/fader" => true } => /cannot be true/,
    { "channel/1/mute" => 1 } => /cannot be 1/, { "channel/1/pan" => 2 } => /cannot be 2/, { "channel/1/fader" => Float::NAN } => /cannot be NaN/,
    { "strip/1/fader" => 0 } => /no level/ }.each do |values, message|
    it("refuses #{values}") { expect { described_class.check(desk, values) }.to raise_error(Loomshuttle::Invalid, message) }
  end

  it "has words for each level of a desk" do
    show = HearingHelp.show
    words = names.of(desk).map { |name| names.words(show, name) }
    expect(words.uniq.size).to eq(words.size)
    expect(names.words(show, "channel/1/send/1")).to eq("Fiddle, send to Bus 1 Ear Ada")
    expect([["channel/1/fader", -90], ["channel/1/fader", -6.25], ["bus/1/mute", true], ["channel/1/pan", 0.5]].map { |name, value| names.told(name, value) })
      .to eq(["off", "−6.3 dB", "muted", "0.50"])
  end
end
