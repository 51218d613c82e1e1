# frozen_string_literal: true

RSpec.describe "The settings in docs/formats.md" do
  rows = File.readlines(File.join(Loomshuttle::ROOT, "docs", "formats.md")).filter_map do |line|
    path, _, fields = line.split("|").map(&:strip).reject(&:empty?)
    [path[%r{\A`(\w+)/}, 1], fields.gsub(/\([^)]*\)/, "").scan(/`(\w+)`/).flatten] if path&.match?(%r{\A`\w+/(\w/)?`}) && fields
  end.to_h

  it "name every collection" do
    expect(rows.keys).to match_array(Loomshuttle::Settings.collections.map(&:name))
  end

  Loomshuttle::Settings.collections.each do |collection|
    it("name every field of #{collection.name}") { expect(rows[collection.name]).to match_array(collection.settings.keys.map(&:to_s)) }
  end
end
