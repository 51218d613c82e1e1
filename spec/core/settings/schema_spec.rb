# frozen_string_literal: true

require "json"

# What is declared about settings, and what is written down from it.
RSpec.describe Loomshuttle::Settings::Schema do
  load File.join(Loomshuttle::ROOT, "bin", "schemas")

  it "stands in the show's schema and in the contract as it is declared (bin/schemas writes both)" do
    Loomshuttle::DeclaredSchemas.files.each { |path, text| expect(File.read(path)).to eq(text), "#{path} is behind; run bin/schemas" }
  end

  it "has one pattern for each setting of every desk" do
    patterns = described_class.by_path.keys.map { |pattern| Regexp.new(pattern) }
    %w[rowan-10 rowan-16 sedge-24 alder-40 hazel-56].each do |desk|
      blank(desk).settings.each_key { |path| expect(patterns.count { |pattern| pattern.match?(path) }).to eq(1), path }
    end
  end

  it "accepts every value that the rules keep, over random rigs" do
    schemas = described_class.by_path.to_h { |pattern, schema| [Regexp.new(pattern), schema] }
    types = { "string" => String, "integer" => Integer, "number" => Numeric, "boolean" => [true, false], "array" => Array, "object" => Hash, "null" => nil }
    8.times do |seed|
      RandomRig.new(seed).show.settings.each do |path, value|
        schema = schemas.find { |pattern, _| pattern.match?(path) }.last
        expect(Array(schema["type"]).flat_map { |type| types[type].is_a?(Array) ? types[type] : [types[type]] }).to include(be === value), "#{path} #{value.inspect}"
        expect(schema["enum"]).to include(value) if schema["enum"]
      end
    end
  end
end
