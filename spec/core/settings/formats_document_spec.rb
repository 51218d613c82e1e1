# frozen_string_literal: true

RSpec.describe "The settings in docs/formats.md" do
  # @return [Hash{String=>Array<String>}] fields that the document names, by collection
  def rows
    lines = File.readlines(File.join(Loomshuttle::ROOT, "docs", "formats.md"))
    lines.filter_map { |line| line.match(%r{\A\| `(\w+)/(?:\w/)?`[^|]*\|[^|]*\|([^|]*)\|}) }.to_h { |row| [row[1], row[2].gsub(/\([^)]*\)/, "").scan(/`(\w+)`/).flatten] }
  end

  it "name every collection" do
    expect(rows.keys).to match_array(Loomshuttle::Settings.collections.map(&:name))
  end

  Loomshuttle::Settings.collections.each do |collection|
    it("name every field of #{collection.name}") { expect(rows[collection.name]).to match_array(collection.settings.keys.map(&:to_s)) }
  end
end
