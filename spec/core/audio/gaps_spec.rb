# frozen_string_literal: true

RSpec.describe Loomshuttle::Audio::Gaps do
  def gap(at, frames, *lanes) = { "at" => at, "frames" => frames, "lanes" => lanes }
  def seen(*gaps) = described_class.in_time(gaps).map(&:values)

  it "is nothing where nothing is missing" do
    expect(seen).to eq([])
  end

  it "counts what several streams lost at once as one stretch of time" do
    expect(seen(gap(100, 48, 1, 8), gap(100, 48, 9, 16), gap(100, 96, 33, 38))).to eq([[100, 96, [[1, 16], [33, 38]]]])
  end

  it "joins what touches and leaves apart what does not, in order of time" do
    expect(seen(gap(500, 10, 1, 8), gap(0, 48, 9, 16), gap(48, 48, 1, 8), gap(97, 3, 1, 8)))
      .to eq([[0, 96, [[1, 16]]], [97, 3, [[1, 8]]], [500, 10, [[1, 8]]]])
  end

  it "does not let a short one end a long one" do
    expect(seen(gap(0, 100, 1, 8), gap(10, 5, 9, 16), gap(90, 20, 9, 16))).to eq([[0, 110, [[1, 16]]]])
  end

  it "leaves what it was given as it was" do
    given = [gap(0, 10, 1, 8), gap(5, 10, 9, 16)].map(&:freeze).freeze
    described_class.in_time(given)
    expect(given).to eq([gap(0, 10, 1, 8), gap(5, 10, 9, 16)])
  end
end
