# frozen_string_literal: true

RSpec.describe Loomshuttle::Web::SongChecksums, :folder do
  # @param stems [Hash{String=>String}] name => checksum
  def entry(id, stems)
    FileUtils.mkdir_p(File.join(@folder, id))
    stems.each_key { |name| File.write(File.join(@folder, id, "#{name}.wav"), name) }
    Loomshuttle::Web::SongEntry.new(id, { "stems" => stems.map { |name, sum| { "name" => name, "file" => "#{name}.wav", "sum" => sum } } }, File.join(@folder, id), nil, [])
  end

  def sum(text) = Digest::SHA256.hexdigest(text)

  it "reads each song once, reports damaged stems, and then waits" do
    songs = [entry("a", "Click" => sum("Click"), "Choir" => sum("Choir")), entry("b", "Sea" => sum("something else"))]
    asked, told = 0, {}
    checksums = described_class.new(-> { (asked += 1) && songs }, on_damage: ->(song, names) { told[song.id] = names })
    checksums.start
    Tools.wait_until(20, "both songs") { told.size == 2 }
    expect(told).to eq("a" => [], "b" => ["Sea"])
    expect([checksums.damaged("a"), checksums.damaged("b"), checksums.damaged("c")]).to eq([[], ["Sea"], []])
    Tools.wait_until(20, "a look that finds nothing new") { asked > 2 }
    songs << entry("c", "Tuba" => sum("Tuba"))
    before = asked
    checksums.look
    Tools.wait_until(20, "the new song") { told.key?("c") }
    expect(asked - before).to be <= 3 # it waits for news instead of asking all the time
    checksums.delete("b")
    expect(checksums.damaged("b")).to eq([])
  ensure
    checksums&.stop
  end
end
