# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::Manifest do
  it "keeps what stands before the end of a take that is mended, and a marker at its very end" do
    markers = [[0, 0], [90, 50], [100, 0], [101, 0]].map { |at, frames| { "at" => at, "frames" => frames, "name" => "M" } }
    gaps = [[95, 20], [100, 5]].map { |at, frames| { "at" => at, "frames" => frames } }
    ended = described_class.ending({ "tracks" => [], "gaps" => gaps, "breaks" => [], "markers" => markers }, 100)
    expect(ended["markers"].map { |one| one.values_at("at", "frames") }).to eq([[0, 0], [90, 10], [100, 0]])
    expect(ended["gaps"].map { |one| one.values_at("at", "frames") }).to eq([[95, 5]])
  end
end
