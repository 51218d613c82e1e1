# frozen_string_literal: true

RSpec.describe Loomshuttle::Formats::StereoCell do
  it "knows names with both sides, and leaves others alone" do
    both = { "Keys L/R" => "Keys", "OH LR" => "OH", "Strings (st.)" => "Strings", "Klavier Li/Re" => "Klavier", "Piano L & R" => "Piano", "Clavier gauche/droite" => "Clavier",
             "Keys stereo" => "Keys", "Organ L / Organ R" => "Organ", "Tastiera SX/DX" => "Tastiera" }
    expect(both.keys.to_h { |name| [name, described_class.base(name)] }).to eq(both)
    expect(["Main St", "Keys L", "Stereo", "Rand", "Kick In/Out", "Ada/R", "Mr", "HARP"].map { |name| described_class.base(name) }).to all(be_nil)
  end

  it "reads two numbers with what stands before them" do
    expect(["13/14", "A-13/14", "B-05/06", "A13/A14", "Box A in 13/14", "In 3 + In 4", "13 und 14"].map { |text| described_class.range(text) }).to eq(
      [["", 13, 14], ["A", 13, 14], ["B", 5, 6], ["A", 13, 14], ["Box A in", 13, 14], ["In", 3, 4], ["", 13, 14]]
    )
    expect(["A-13", "13", "Box A in 3", "A 16/B 1"].map { |text| described_class.range(text) }).to all(be_nil)
    expect(["A 16/B 1", "A-13", "13/14"].map { |text| described_class.split?(text) }).to eq([true, false, false])
  end
end

RSpec.describe Loomshuttle::Formats::CrossedOut do
  it "says what speaks against a row, in many languages" do
    against = ["—", "n/a", "~~Harp~~", "Harp (cancelled)", "Harfe - entfällt", "CANCELLED: Harp", "Vielle (annulée)", "H\u0336a\u0336r\u0336p\u0336"]
    expect(against.map { |name| described_class.why(name) }).to all(be_a(String))
    expect(["Harp", "Kick - out", "Snare (cut)", "~~Kora~~ Cornet", "Guest (absent-minded)", "A-Z"].map { |name| described_class.why(name) }).to all(be_nil)
    expect([described_class.why("Harp", ["wedge 3", "abgesagt"]), described_class.why("Harp", ["not cancelled yet, ask Bram"])]).to eq(["\"abgesagt\"", nil])
    expect(described_class.plain("~~Kora~~ Cornet")).to eq("Cornet")
  end
end

RSpec.describe Loomshuttle::Formats::ListRemarks do
  it "tells the most harmful first, in groups, with each row" do
    problem = ->(line, kind) { Loomshuttle::Formats::InputList::Problem.new(line: line, message: kind.to_s, kind: kind) }
    list = [problem.call(9, :cut), problem.call(8, :socket), problem.call(2, :title), problem.call(4, :socket), problem.call(7, :no_room)]
    expect(described_class.of(list).map { |one| [one.group, one.where] }).to eq(
      [["1 row does not fit on the desk", "line 7"], ["2 rows ask for sockets that this rig does not have", "line 4"],
       ["2 rows ask for sockets that this rig does not have", "line 8"],
       ["1 text is too long", "line 9"],
       ["1 row is a title or a note", "line 2"]]
    )
  end
end

RSpec.describe Loomshuttle::Formats::ColumnGuess do
  def guesses(text) = Loomshuttle::Formats::InputList.columns(text).filter_map { |column| [column.key, column.guess] if column.guess }.to_h

  it "does not take ticks for 48 V, counts for channels, or a field twice" do
    expect(guesses("Name,Own cable,How many\nTuba,x,1\nFiddle,x,1\n")).to eq({})
    expect(guesses("Name,One,Two\nTuba,A 1,A 2\nFiddle,A 3,A 4\n")).to eq("one" => "socket")
    expect(guesses("Name,Mic model\nTuba,M 12\n")).to eq("mic model" => "mic")
  end
end

RSpec.describe Loomshuttle::Formats::InputList do
  # Texts and tables that would take minutes if they were searched as names or looked at as a whole.
  it "reads very long cells and very wide tables" do
    long = "Keys #{' ~' * 100_000}x"
    expect(described_class.read("name,notes\n#{long},#{'- ' * 90_000}x\n", chained).entries.first).to have_attributes(stereo: false)
    wide = "name#{',x y' * 40_000}\nTuba#{',A 1' * 40_000}\n"
    expect(described_class.columns(wide).filter_map(&:guess)).to eq(["socket"])
    expect(described_class.read(wide, chained).entries.map(&:name)).to eq(["Tuba"])
    expect(described_class.top(wide)[:rows].map { |row| row[:cells].size }).to eq([12, 12])
  end
end
