# frozen_string_literal: true

# Workbooks that a library would be lost in: each is refused in words, by a process that ends.
RSpec.describe Loomshuttle::Web::Spreadsheet do
  # rubocop:disable-next Layout/LineLength
  parts = {
    "[Content_Types].xml" => '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/></Types>',
    "_rels/.rels" => '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>',
    "xl/_rels/workbook.xml.rels" => '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
    "xl/workbook.xml" => '<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="S" sheetId="1" r:id="rId1"/></sheets></workbook>'
  }

  define_method(:book) do |inside|
    sheet = "<worksheet xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\" xmlns:r=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships\">#{inside}</worksheet>"
    Zip::OutputStream.write_buffer { |zip| parts.merge("xl/worksheets/sheet1.xml" => sheet).each { |name, text| zip.put_next_entry(name) && zip.write(text) } }.string
  end

  def cell(at, text) = "<c r=\"#{at}\" t=\"inlineStr\"><is><t>#{text}</t></is></c>"

  it "reads a small one" do
    rows = [%w[A1 Channel B1 Name], %w[A2 1 B2 Tuba]].map.with_index(1) { |row, n| "<row r=\"#{n}\">#{row.each_slice(2).map { |at, text| cell(at, text) }.join}</row>" }
    expect(described_class.csv(book("<sheetData>#{rows.join}</sheetData>"))).to eq("Channel,Name\n1,Tuba\n")
  end

  it "is ended when it takes more memory or time than there is, and refused in words" do
    stub_const("#{described_class}::SECONDS", 6)
    far = "<sheetData><row r=\"1\">#{cell('XFD1', 'far')}</row><row r=\"1048576\">#{cell('XFD1048576', 'x')}</row></sheetData>"
    links = "<sheetData><row r=\"1\">#{cell('A1', 'x')}</row></sheetData><hyperlinks><hyperlink ref=\"A1:XFD1048576\" location=\"S!A1\"/></hyperlinks>"
    [far, links].each do |inside|
      bytes = book(inside)
      expect(bytes.bytesize).to be < 3000
      begin
        described_class.csv(bytes)
      rescue Loomshuttle::Invalid => e
        expect(e.message).to match(/more time or memory|cannot be read|is empty/)
      end
    end
    here = File.read("/proc/self/status")[/VmHWM:\s+(\d+)/, 1].to_i
    expect(here).to be < 1_500_000 # kB: what it took was not ours
  end

  it "says when a file is not a workbook, without a library's words" do
    ["PK\3\4 nothing", book("<sheetData><row r='x'")].each do |bytes|
      expect { described_class.csv(bytes) }.to raise_error(Loomshuttle::Invalid, "This workbook cannot be read. Save it as CSV, and try again.")
    end
  end
end
