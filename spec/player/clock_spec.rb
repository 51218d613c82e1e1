# frozen_string_literal: true

RSpec.describe Loomshuttle::Player::Clock do
  let(:clock) { described_class.new.tap { |one| one.hear(1000) } }

  it "counts on through the end of the counter, and never back" do
    wide = described_class.new
    wide.hear((1 << 32) - 240)
    [0, 240, 0, 480].each { |timestamp| expect(wide.hear(timestamp)).to eq(:on) }
    expect(wide.time).to eq((1 << 32) + 480)
  end

  it "believes another time only when it goes on" do
    [9_000_000, 500_000, 77_000_000, 1_000_000_000, 400_000, 3_000_000_000].each { |timestamp| expect(clock.hear(timestamp)).to be_nil }
    expect(clock.hear(1240)).to eq(:on)
    expect([500_000, 500_240, 500_480].map { |timestamp| clock.hear(timestamp) }).to eq([nil, nil, :anew])
    expect([clock.time, clock.restarts]).to eq([500_480, 1])
  end
end
