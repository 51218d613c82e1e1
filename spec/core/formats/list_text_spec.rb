# frozen_string_literal: true

# OWASP, "CSV Injection": cells that begin with = + - @ or a tab are taken as formulas by spreadsheets; an apostrophe before them marks text.
RSpec.describe Loomshuttle::Formats::ListText do
  let(:names) { ["=1+1", "+A1", "-6 dB pad", "@SUM(A1)", "\tTuba", "'=said", "''=twice", "Tuba", "Drum'n'bass", "'48", ""] }

  it "writes nothing that starts a formula, and reads back what was written" do
    written = CSV.generate(row_sep: "\r\n") { |csv| names.each { |name| csv << described_class.plain([name, 4, nil]) } }
    expect(CSV.parse(written).map(&:first).compact.grep(/\A[=+\-@\t]/)).to eq([])
    expect(described_class.rows(described_class.decode(written)).map { |row| row.first.to_s }).to eq(names)
    expect(described_class.plain([-3, "x"])).to eq([-3, "x"])
  end

  it "is how input lists and markers are written" do
    show = set(straight(2), "channel/1/name" => "=HYPERLINK(1)", "channel/2/name" => "-6")
    list = Loomshuttle::Formats::InputList.write(show)
    expect(list).to include("'=HYPERLINK(1)", "'-6").and(satisfy { |text| !text.match?(/(^|,)[=@]/) })
    expect(described_class.rows(list).map { |row| row[1] }).to include("=HYPERLINK(1)", "-6")
    expect(Loomshuttle::Formats::Markers.csv([Loomshuttle::Formats::Markers::Marker.new(at: 0, name: "=1", frames: 0)], 48_000)).to include("1,'=1,")
  end
end
