# frozen_string_literal: true

RSpec.describe Loomshuttle::CommandLine::Ranges do
  it "reads numbers and ranges" do
    expect(described_class.parse("1-4, 7,9-9")).to eq([1, 2, 3, 4, 7, 9])
  end

  { "x" => /not a channel or range/, "1-" => /not a channel or range/, "" => nil, "4-1" => /backwards/ }.compact.each do |text, message|
    it("refuses #{text.inspect}") { expect { described_class.parse(text) }.to raise_error(Loomshuttle::CommandLine::Client::Failed, message) }
  end
end

RSpec.describe Loomshuttle::CommandLine::Answers do
  let(:take) do
    { "number" => 3, "name" => "Set", "state" => "complete", "frames" => 96_000, "rate" => 48_000, "folder" => "/takes/3", "gaps" => [{ "at" => 5, "frames" => 48 }],
      "missing" => [{ "at" => 5, "frames" => 48, "lanes" => [[1, 8]] }], "breaks" => [], "note" => nil,
      "tracks" => [{ "number" => 4, "name" => "Fiddle", "path" => "/f.wav", "frames" => 96_000, "peak_dbfs" => -18.44, "rms_dbfs" => -27.0, "inputs" => [4] }] }
  end

  it "tells a take with its levels, and what is missing" do
    expect(described_class.take(take)).to eq(<<~TEXT.chomp)
      Take 3 Set, complete: 2.0 s in /takes/3
      track  name    peak dBFS  RMS dBFS
      4      Fiddle  −18.4      −27.0
      1 gap, 48 samples in all.
    TEXT
  end

  it "says that nothing was lost only when that is so, and what happened" do
    expect(described_class.take(take.merge("missing" => []))).to end_with("\nNothing was lost.")
    broken = take.merge("missing" => [], "breaks" => [{ "at" => 48_000, "seconds" => 3.1 }], "note" => "The desk started again.")
    expect(described_class.take(broken)).to end_with("−27.0\nThe desk started again.")
  end

  it "makes the document that capture prints" do
    expect(described_class.capture_document(take)).to eq(
      "take" => 3, "frames" => 96_000, "rate" => 48_000, "gaps" => take["gaps"], "breaks" => [],
      "files" => [{ "track" => 4, "name" => "Fiddle", "path" => "/f.wav", "frames" => 96_000, "peak_dbfs" => -18.44, "rms_dbfs" => -27.0 }]
    )
  end

  it "has words for nothing" do
    expect(described_class.findings([])).to eq("No findings.")
    expect(described_class.takes([])).to include("No takes yet")
  end
end
