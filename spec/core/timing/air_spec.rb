# frozen_string_literal: true

RSpec.describe Loomshuttle::Timing::Air do
  # ISO 9613-1:1993 reckons with c = 343.2 · √(T / 293.15 K) m/s (from memory); both differ by less than 0.1 m/s over what is met outdoors.
  it "is as fast as ISO 9613-1 says" do
    (-20..45).step(5) { |celsius| expect(described_class.speed(celsius)).to be_within(0.1).of(343.2 * Math.sqrt((celsius + 273.15) / 293.15)) }
  end

  # Values at 0, 10, 20 and 30 °C as common tables of dry air print them (from memory): 331.3, 337.3, 343.2, 349.0.
  it "is as fast as tables say" do
    { 0 => 331.3, 10 => 337.3, 20 => 343.2, 30 => 349.0 }.each { |celsius, speed| expect(described_class.speed(celsius)).to be_within(0.1).of(speed) }
  end

  it "takes 2.9 ms a metre at 20 °C" do
    expect(described_class.ms(30, 20)).to be_within(0.01).of(87.41)
  end
end
