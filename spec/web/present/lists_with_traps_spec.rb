# frozen_string_literal: true

# More input lists as people write them (spec/lists, 26 and on, invented): pairs in one row, rows that no longer count, titles, notes, merged cells and
# columns with words of their own.
RSpec.describe Loomshuttle::Web::Routes::InputLists do
  include CoreHelp

  let(:none) { instance_double(Loomshuttle::Store::ListColumns, all: {}) }
  let(:show) { chained("hazel-56") }

  def file(name, **options) = File.open(File.join(Loomshuttle::ROOT, "spec", "lists", name), "rb") { |file| described_class.read(file, none, **options) }
  def guesses(name) = file(name)[:columns].select { |column| column[:guess] }.to_h { |column| column.values_at(:key, :guess) }
  def proposal(name, **options) = Loomshuttle::Steps::Propose.for(show, "input_list", { "text" => file(name)[:text], **options.transform_keys(&:to_s) })

  # Name, channel, socket and whether it is the left of a pair, of each channel that the list patches.
  def patched(name, **options)
    after = proposal(name, **options).edit.apply(show).first
    after.channels.values.reject { |channel| channel.name.empty? }.map do |channel|
      [channel.number, channel.name, Loomshuttle::Rig::Label.short(after.layout.socket_of(channel.stage)).strip, channel.paired]
    end
  end

  def remarks(name) = proposal(name).problems.map { |one| [one.group, one.where, one.message] }

  it "makes a pair on two neighbouring sockets of a row with both sides" do
    expect(patched("26-both-sides-in-one-row.csv")).to eq(
      [[1, "Strings L", "A 2", true], [2, "Strings R", "A 3", false], [13, "Keys L", "A 13", true], [14, "Keys R", "A 14", false],
       [21, "OH L", "B 5", true], [22, "OH R", "B 6", false], [30, "Voice Ada", "A 1", false]]
    )
    expect(remarks("26-both-sides-in-one-row.csv")).to eq([])
  end

  it "puts no half on another box, and says what was not understood" do
    made = patched("27-halves-apart.csv")
    expect(made.map { |one| one.values_at(1, 3) }).to eq([["Piano L", true], ["Piano R", false], ["Harmonium L", true], ["Harmonium R", false], ["Tuba", false]])
    made.select(&:last).each do |number, _, left, _|
      right = made.find { |one| one.first == number + 1 }[2]
      expect(right).to eq("#{left[0]} #{left[/\d+/].to_i + 1}")
    end
    expect(remarks("27-halves-apart.csv").map { |one| one.first(2) }).to eq(
      [["2 stereo rows name sockets that are not neighbours", "line 2"], ["2 stereo rows name sockets that are not neighbours", "line 3"],
       ["1 channel number is not understood", "line 3"]]
    )
  end

  it "moves a pair by one from an even channel, in one row or two, and says so" do
    expect(patched("28-on-even-channels.csv")).to eq(
      [[1, "Tuba", "A 1", false], [3, "Accordion L", "A 3", true], [4, "Accordion R", "A 4", false], [7, "Keys L", "A 5", true], [8, "Keys R", "A 6", false]]
    )
    expect(remarks("28-on-even-channels.csv").map(&:last)).to eq(
      ["Accordion L gets channel 3, not channel 4", "Accordion R gets channel 4, not channel 5", "Keys L gets channel 7, not channel 8", "Keys R gets channel 8, not channel 9"]
        .map { |words| "#{words}: a pair is an odd channel and the next one" }
    )
  end

  it "patches no row that is crossed out, and lists each with what says so" do
    expect(patched("29-crossed-out.csv").map { |one| one.first(2) }).to eq([[1, "Tuba"], [6, "Stimme Ada"]])
    lines = [["line 3", "Harfe (entfällt) is left out: \"entfällt\""], ["line 4", "3, A 3 is left out: \"—\""], ["line 5", "Geige is left out: \"abgesagt\""],
             ["line 6", "Flöte is left out: struck out"], ["line 8", "7 is left out: \"n/a\""]]
    expect(remarks("29-crossed-out.csv")).to eq(lines.map { |one| ["5 rows are crossed out", *one] })
    after = proposal("29-crossed-out.csv").edit.apply(show).first
    expect(after.channels[6].notes).to eq("bringt eigenes Mikro mit")
  end

  it "skips titles, notes and the header of a second page, and keeps the notes of sources" do
    expect(patched("30-sections.csv").map { |one| one.first(3) }).to eq([[1, "Tuba", "A 1"], [2, "Cornet", "A 2"], [3, "Voice Ada", "A 3"]])
    expect(remarks("30-sections.csv").map { |one| one.first(2) }).to eq([3, 6, 7, 9].map { |line| ["4 rows are titles or notes", "line #{line}"] })
    after = proposal("30-sections.csv").edit.apply(show).first
    expect([1, 3].map { |number| after.channels[number].notes }).to eq(["short cable", "left-handed stand"])
    sheet = Loomshuttle::Views::Sheets.of(after).find { |table| table.title == "Box A" }
    expect([sheet.head.last, sheet.rows.first.last]).to eq(["Notes", "short cable"])
  end

  it "takes the header that somebody chose" do
    read = file("30-sections.csv")
    expect([read[:header], read[:rows].first(2)]).to eq([2, [{ line: 1, cells: ["Lantern Quay harbour festival"] }, { line: 2, cells: %w[Ch Name Socket Notes] }]])
    expect(file("30-sections.csv", header: 6)).to include(header: 6)
    expect(patched("30-sections.csv", header: 6).map { |one| one[1] }).to eq(["Voice Ada"])
    expect { file("30-sections.csv", header: 99) }.to raise_error(Loomshuttle::Invalid, /has 9 lines, so line 99 cannot be its header/)
  end

  it "guesses what eight columns with words of their own hold, so that one press takes them" do
    expect(guesses("31-words-of-their-own.tsv")).to eq(
      "strip" => "channel", "wer" => "name", "steckplatz" => "socket", "abnahme" => "mic", "halter" => "stand", "speisung" => "phantom", "seite" => "spot", "vorstufe" => "gain"
    )
    after = proposal("31-words-of-their-own.tsv", columns: guesses("31-words-of-their-own.tsv")).edit.apply(show).first
    expect(after.channels[3]).to have_attributes(name: "Stimme", mic: "Kondensator-Mikro", stand: "Galgen", phantom: true, spot: "centre", gain: 24)
  end

  it "knows pairs, cancelled rows and notes in other languages" do
    expect(patched("32-french-pairs.csv").map { |one| one.values_at(0, 1, 3) }).to eq([[1, "Clavier L", true], [2, "Clavier R", false], [4, "Tambour", false]])
    expect(patched("33-spanish.csv").map { |one| one.values_at(0, 1, 3) }).to eq([[1, "Tambor", false], [3, "Teclado L", true], [4, "Teclado R", false]])
    expect(patched("34-twice-in-a-cell.csv")).to eq([[1, "Organ L", "B 7", true], [2, "Organ R", "B 8", false], [3, "Drum L", "B 9", true], [4, "Drum R", "B 10", false]])
  end

  it "reads what a workbook strikes out, wholly or in part, and its merged cells" do
    expect(patched("35-struck-and-merged.xlsx").map { |one| one.first(3) }).to eq([[1, "Tuba", "A 1"], [3, "Cornet", "A 3"], [4, "Fiddle", "A 4"], [5, "Viola", "A 5"]])
    expect(remarks("35-struck-and-merged.xlsx").map do |one|
      one.drop(1)
    end).to eq([["line 4", "Harp is left out: struck out"], ["line 2", "\"BRASS\" is a title or a note; skipped"]])
    after = proposal("35-struck-and-merged.xlsx").edit.apply(show).first
    expect(after.channels[5].mic).to eq("clip-on")
  end

  it "says which workbooks it does not read, in plain words" do
    refuse = ->(bytes, words) { expect { described_class.read(StringIO.new(bytes), none) }.to raise_error(Loomshuttle::Invalid, words) }
    refuse.call("\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1".b + ("\0" * 512), /old XLS format, or one with a password/)
    refuse.call(Zip::OutputStream.write_buffer { |zip| zip.put_next_entry("content.xml") && zip.write("<x/>") }.string, /not a workbook in XLSX format/)
  end
end
