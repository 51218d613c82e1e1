# frozen_string_literal: true

RSpec.describe Loomshuttle::Checks::CardPace do
  def found(hertz) = described_class.found(straight(4), hertz).map(&:sentence)

  it "is found when the card is off by more than a tenth of a per cent, with how much" do
    expect([nil, 48_000, 47_953, 48_047.9].flat_map { |hertz| found(hertz) }).to eq([])
    expect(found(47_951)).to match([/runs at 47951 Hz by this computer's clock, 0.10 % too slow for 48.0 kHz/])
    expect(found(48_052.4)).to match([/0.11 % too fast/])
  end
end
