# frozen_string_literal: true

RSpec.describe Loomshuttle::Recorder::Numbers, :folder do
  it "goes on behind what is there, in any folder and in its bin" do
    Dir.mkdir(File.join(@folder, "0003 Set"))
    FileUtils.mkdir_p(File.join(@folder, "second", "bin", "0007 Encore"))
    expect(described_class.new.next([@folder])).to eq(4)
    expect(described_class.new.next([@folder, File.join(@folder, "second")])).to eq(8)
  end

  # A take that is brought in has no folder here yet while a capture begins.
  it "gives no number twice, whoever comes at the same moment" do
    numbers = described_class.new
    given = Array.new(8) { Thread.new { Array.new(20) { numbers.next([@folder]) } } }.flat_map(&:value)
    expect(given.sort).to eq([*1..160])
  end
end
