# frozen_string_literal: true

RSpec.describe Loomshuttle::Formats::IXml do
  def written(name, inputs)
    track = described_class::Track.new(number: 4, name: name, inputs: inputs)
    described_class.write(project: "Lantern Quay", take: "1", tracks: [track], id: "x", family: "y", rate: 48_000, bits: 24, since_midnight: 0)
  end

  it "reads the names that it has written, whatever is in them" do
    expect(described_class.names(written("Bass <DI> & \"mic\"", [4]))).to eq(["Bass <DI> & \"mic\""])
    expect(described_class.names(written("チューバ", [4, 5]))).to eq(["チューバ L", "チューバ R"])
  end

  it "names all lanes of a file with several tracks, in their order" do
    tracks = [["Tuba", [3]], ["Quay", [7, 8]]].map { |name, inputs| described_class::Track.new(number: inputs.first, name: name, inputs: inputs) }
    text = described_class.write(project: "", take: "1", tracks: tracks, id: "x", family: "y", rate: 48_000, bits: 16, since_midnight: 0)
    expect(described_class.names(text)).to eq(["Tuba", "Quay L", "Quay R"])
    expect(described_class.read(text)).to include("index" => 3)
    expect(described_class.read(text)["tracks"]).to eq([{ "name" => "Tuba", "lane" => 3 }, { "name" => "Quay L", "lane" => 7 }, { "name" => "Quay R", "lane" => 8 }])
  end

  # In the order in which they lie in the file, not in that of the list (iXML specification: INTERLEAVE_INDEX).
  it "puts names in the order of the file's lanes" do
    tracks = [[2, "Fiddle"], [1, "Tuba"]].map { |at, name| "<TRACK><INTERLEAVE_INDEX>#{at}</INTERLEAVE_INDEX><NAME>#{name}</NAME></TRACK>" }
    expect(described_class.names("<TRACK_LIST>#{tracks.join}</TRACK_LIST>")).to eq(%w[Tuba Fiddle])
  end

  it "finds nothing where not every lane has a name, or where it is something else" do
    expect(described_class.names("<TRACK><INTERLEAVE_INDEX>1</INTERLEAVE_INDEX><NAME></NAME></TRACK>")).to eq([])
    expect(described_class.names(Random.new(1).bytes(5000))).to eq([])
    expect(described_class.names("<TRACK>" * 20_000)).to eq([])
    expect(described_class.names("<TRACK><NAME>A\u0000B</NAME></TRACK>")).to eq(["A?B"])
  end
end
