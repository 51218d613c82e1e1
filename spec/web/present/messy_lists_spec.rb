# frozen_string_literal: true

# Input lists as people write them, of several habits (spec/lists, invented): each comes in as a file does, and gives what its writer meant.
RSpec.describe Loomshuttle::Web::Routes::InputLists do
  include CoreHelp

  let(:none) { instance_double(Loomshuttle::Store::ListColumns, all: {}) }
  let(:show) { chained("hazel-56") }

  def path(name) = File.join(Loomshuttle::ROOT, "spec", "lists", name)
  def text(name) = File.open(path(name), "rb") { |file| described_class.read(file, none)[:text] }
  def read(name) = Loomshuttle::Formats::InputList.read(text(name), show)
  def proposal(name) = Loomshuttle::Steps::Propose.for(show, "input_list", { "text" => text(name) })

  {
    "01-own-words.csv" => [[1, "Tuba", "link/a/up/1", "dynamic", false], [4, "Fiddle", "link/a/up/4", "clip-on", true]],
    "02-semicolons-german.csv" => [[1, "Große Trommel", nil, "dynamisch", false], [2, "Flügelhorn", nil, "Kondensator", true], [3, "Tenorhorn", nil, "dynamisch", false]],
    "03-tabs.tsv" => [[1, "Tuba", "link/a/up/1", "dynamic", nil], [2, "Bass DI", "link/a/up/2", "active DI", nil], [3, "Whistles", "link/a/up/3", "condenser", nil]],
    "04-utf-16-marked.csv" => [[1, "Bühne L", nil, "", true], [2, "Bühne R", nil, "", true]],
    "05-utf-16-unmarked.csv" => [[1, "Tuba", nil, "", false], [2, "Fiddle", nil, "", true]],
    "06-old-windows.csv" => [[1, "Flügel", nil, "clip", nil], [2, "Señora Alto", nil, "voz", nil]],
    "07-inch-marks.csv" => [[1, "Tom 12\" rack", nil, "dynamic", nil], [2, "Tom 14\" floor", nil, "dynamic", nil], [3, "Snare \"loud\"", nil, "dynamic", nil]],
    "08-title-above.csv" => [[1, "Tuba", nil, "dynamic", nil], [2, "Cornet", nil, "dynamic", nil]],
    "09-questions-in-headers.csv" => [[1, "Frame drum", nil, "condenser", true], [2, "Guitar", nil, "DI", false]],
    "10-ticks.csv" => [[1, "Overhead", nil, "", true], [2, "Kick", nil, "", false], [3, "Harp", nil, "", true], [4, "Voice", nil, "", false]],
    "11-french.csv" => [[1, "Vielle à roue", nil, "statique", true], [2, "Tambour", nil, "dynamique", false]],
    "14-names-only.txt" => [[nil, "Tuba", nil, "", nil], [nil, "Fiddle", nil, "", nil], [nil, "Voice Ada", nil, "", nil]],
    "15-input-is-the-name.csv" => [[1, "Tuba", nil, "dynamic", nil], [2, "Fiddle", nil, "clip-on", nil]],
    "19-line-breaks-in-cells.csv" => [[1, "Voice Ada", nil, "", nil], [2, "Fiddle", nil, "", nil]],
    "22-every-script.csv" => [[1, "日本語", nil, "コンデンサ", nil], [2, "Ñandú", nil, "dinámico", nil], [3, "Ελένη", nil, "", nil], [4, "Ольга", nil, "", nil]],
    "24-moved-about.csv" => [[3, "Tuba", nil, "dynamic", false], [1, "Fiddle", nil, "clip-on", true]],
    "25-workbook.xlsx" => [[1, "Tuba", nil, "dynamic", false], [2, "Fiddle", nil, "clip-on", true], [3, "Tom 12\" rack", nil, "dynamic", false]]
  }.each do |name, entries|
    it "reads #{name} whole" do
      list = read(name)
      expect(list.entries.map { |one| [one.channel, one.name, one.socket&.name, one.mic, one.phantom] }).to eq(entries)
      expect(list).to have_attributes(problems: [], unknown: [])
    end
  end

  it "joins pairs however their sides are written, and says which are none" do
    made = proposal("12-pairs.csv").edit.apply(show).first
    expect(made.channels.values.select(&:paired).map(&:number)).to eq([1, 3, 5])
    expect(made.tracks.values.select(&:stereo).map { |track| made.title_of(track) }).to eq(%w[Keys OH Room])
    expect(proposal("12-pairs.csv").problems).to eq([])

    apart = Loomshuttle::Steps::Propose.for(show, "input_list", { "text" => "#{text('13-pairs-apart.csv')}1,Tuba\n4,Cornet\n" })
    expect(apart.problems.map(&:message)).to eq(["Keys L and Keys R are on channels 2 and 3, not a stereo pair: a pair is an odd channel and the next one, both mono"])
    expect(apart.edit.apply(show).first.channels.values.select(&:paired)).to eq([])
  end

  it "takes no number for a source, and tells a row that has something else" do
    list = read("16-rows-for-nobody.csv")
    expect(list.entries.map(&:name)).to eq(%w[Tuba Fiddle])
    expect(list.problems.map { |one| [one.line, one.message] }).to eq([[6, "the row has no name; skipped"]])
  end

  it "makes two treatments of one socket, with one preamp" do
    made = proposal("17-one-socket-twice.csv")
    after = made.edit.apply(show).first
    expect(after.channels.values_at(1, 11).map { |one| [one.stage.name, one.gain, one.phantom] }).to eq([["link/a/up/1", 30, false]] * 2)
    expect(made.problems.map(&:message)).to eq(["Ada ears hears Box A in 1 as well as Voice Ada, as another treatment of the same sound",
                                                "Ada ears has the preamp of Voice Ada, whose gain and 48 V are taken"])
  end

  it "tells what is not there, row by row" do
    list = read("18-what-is-not-there.csv")
    expect(list.entries.map { |one| [one.channel, one.name, one.socket, one.phantom, one.gain, one.spot] }).to eq(
      [[nil, "Tuba", nil, false, nil, nil], [2, "Fiddle", nil, true, 31, "left"]]
    )
    expect(list.problems.map(&:line)).to eq([2, 2, 2, 2, 2, 3])
  end

  it "knows sides of the stage, and columns that mean nothing" do
    expect(read("20-old-mac.csv").entries.map(&:spot)).to eq(%w[left centre right])
    expect(read("21-other-columns.csv")).to have_attributes(unknown: %w[Monitor], problems: [])
    expect(read("21-other-columns.csv").entries.map { |one| one.socket.name }).to eq(%w[link/a/up/5 desk/in/2])
  end

  it "knows 48 V in many words, and asks about the rest" do
    list = read("23-phantom-in-many-words.csv")
    expect(list.entries.map(&:phantom)).to eq(([true] * 5) + ([false] * 3))
    expect(list.problems.map(&:message)).to eq(["\"maybe\" says neither yes nor no to 48 V; it stays off"])
  end

  it "refuses what is not a list" do
    refuse = ->(bytes, words) { expect { described_class.read(StringIO.new(bytes), none) }.to raise_error(Loomshuttle::Invalid, words) }
    refuse.call("\0\1\2\3" * 40, /not text/)
    refuse.call("PK\x03\x04 and nothing else", /workbook cannot be read/)
    refuse.call(File.binread(path("25-workbook.xlsx")).byteslice(0, 900), /workbook cannot be read/)
    refuse.call("a" * ((4 << 20) + 1), /4 MiB at most/)
    huge = Zip::OutputStream.write_buffer { |zip| zip.put_next_entry("xl/workbook.xml") && zip.write("0" * (33 << 20)) }.string
    refuse.call(huge, /MiB unpacked; 32 at most/)
  end
end
