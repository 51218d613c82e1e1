# frozen_string_literal: true

RSpec.describe Loomshuttle::Audio::ZeroCrossing do
  # A sine of 100 samples goes through zero at each 50th.
  it "finds the nearest place where a sine goes through zero" do
    sine = Numo::NMath.sin((Numo::DFloat.new(1000).seq + 0.5) * (2 * Math::PI / 100))
    expect([310, 324, 326, 999].map { |at| described_class.nearest(sine, at) }).to eq([300, 300, 350, 950])
  end

  it "takes silence as it is, and stays where nothing goes through zero" do
    expect(described_class.nearest(Numo::DFloat[1, 0, 0, 0, 1], 2)).to eq(2)
    expect(described_class.nearest(Numo::DFloat[0, 1, 1, 1], 0)).to eq(0)
    expect(described_class.nearest(Numo::DFloat[1, 2, 3], 1)).to eq(1)
    expect(described_class.nearest(Numo::DFloat[1], 0)).to eq(0)
  end
end
