# frozen_string_literal: true

# The published schemas as guards, by a schema library (JSON Schema 2020-12).
RSpec.describe Loomshuttle::Web::Schemas do
  def shipped(id) = JSON.parse(File.read(File.join(Loomshuttle::ROOT, "profiles", "#{id}.json")))

  def faults(kind, data)
    described_class.check(kind, data)
    []
  rescue Loomshuttle::Invalid => e
    e.faults.map(&:to_a)
  end

  Dir[File.join(Loomshuttle::ROOT, "profiles", "*.json")].reject { |path| path.end_with?("schema.json") }.each do |path|
    it("takes #{File.basename(path)}") { expect(faults(:profile, JSON.parse(File.read(path)))).to eq([]) }
  end

  %w[show.json clean.json].each { |name| it("takes demo/#{name}") { expect(faults(:show, JSON.parse(File.read(File.join(Loomshuttle::ROOT, "demo", name))))).to eq([]) } }

  {
    ["lacks a name", ->(data) { data.delete("name") }] => ["the top", "lacks name"],
    ["has a word that nobody knows", ->(data) { data["colour"] = "red" }] => ["/colour", "is not known here"],
    ["has text for a number", ->(data) { data["inputs"] = "many" }] => ["/inputs", "must be a whole number"],
    ["has a rate that is none", ->(data) { data["rates"] = [47] }] => ["/rates/0", /one of/],
    ["has an id that is not an id", ->(data) { data["id"] = "Big Box" }] => ["/id", /does not look like/],
    ["is of another format", ->(data) { data["format"] = "else" }] => ["/format", /must be "/]
  }.each do |(what, harm), (where, words)|
    it "refuses a box that #{what}, and says where" do
      data = shipped("bramble-16").tap(&harm)
      expect(faults(:profile, data)).to include(match([where, words]))
    end
  end

  it "tells every fault, up to a limit, and how many" do
    data = shipped("bramble-16").except("name", "inputs").merge("colour" => 1, "rates" => "all")
    expect { described_class.check(:profile, data) }.to raise_error(Loomshuttle::Invalid, /This is not a Loomshuttle profile: .* \(and \d more\)\./)
  end

  it "refuses what is not an object" do
    expect(faults(:show, [1])).to eq([["the top", "must be an object"]])
  end
end
