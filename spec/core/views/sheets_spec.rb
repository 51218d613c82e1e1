# frozen_string_literal: true

RSpec.describe Loomshuttle::Views::Sheets do
  let(:show) do
    set(straight(20, from: chained), "channel/3/name" => "Fiddle", "channel/3/mic" => "clip-on", "channel/3/stand" => "none", "channel/3/phantom" => true, "channel/3/gain" => 31,
                                     "box/a/spot" => "left", "send/39/source" => "desk/main/l", "output/15/source" => "desk/main/l",
                                     "channel/21/name" => "Guest", "channel/21/stage" => "desk/in/5")
  end
  let(:tables) { described_class.of(show).to_h { |table| [table.title, table] } }

  it "lists stage boxes by socket, with what the stage hand needs" do
    expect(tables["Box A"]).to have_attributes(note: "Bramble 16, stage left, link A, lanes 1 to 16", head: ["Socket", "Ch", "Source", "Microphone", "Stand", "48 V", "Notes"])
    expect(tables["Box A"].rows[2]).to eq(["A 3", "3", "Fiddle", "clip-on", "none", "48 V", ""])
    expect(tables["Box B"].rows[4]).to eq(["B 5", "", "", "", "", "", ""])
    expect(tables["At the desk"].rows).to eq([["In 5", "21", "Guest", "", "", "", ""]])
  end

  it "lists the desk by channel, what comes out, and the recorder by track" do
    expect(tables["Desk by channel"].rows[2]).to eq(["3", "Fiddle", "Box A in 3", "+31 dB", "3 preamp", "3"])
    expect(tables["Outputs"].rows).to eq([["15", "Main L", "post-fader", "", "Box B out 7"]])
    expect(tables["Recorder by track"].rows[2]).to eq(["3", "Source 3", "mono", "3", "Channel 3 Fiddle", "3", "armed"])
  end

  it "lists what comes out at each box and at the desk, and what plugs in there; and subgroups with their members" do
    more = set(show, "output/1/source" => "desk/bus/1", "bus/1/name" => "Ear Ada", "listener/order" => [1, 2], "listener/1/name" => "Ada", "listener/1/hears" => ["desk/output/1"],
                     "listener/2/name" => "Side fill", "listener/2/hears" => %w[desk/output/15 desk/output/1], "bus/5/mode" => "subgroup", "bus/5/name" => "Brass",
                     "bus/5/main" => true, "channel/3/groups" => [5], "channel/4/groups" => [5], "outlet/b-1/first" => nil, "outlet/out-1/first" => 1, "outlet/b-2/first" => 9)
    tables = described_class.of(more).to_h { |table| [table.title, table] }
    expect(tables["At the desk, outputs"]).to have_attributes(head: ["Socket", "Output", "Carries", "What plugs in"])
    expect(tables["At the desk, outputs"].rows).to include(["Out 1", "1", "Bus 1 Ear Ada", "Ada, Side fill"])
    expect(tables["Box B, outputs"].rows).to eq([["B out 7", "15", "Main L", "Side fill"]])
    expect(tables["Subgroups"].rows).to eq([["5", "Brass", "3 Fiddle, 4 Source 4", "main"]])
  end

  it "leaves out what is empty" do
    expect(described_class.of(blank)).to eq([])
  end
end

RSpec.describe Loomshuttle::Rig::Missing do
  it "tells in runs what the patch can name and the rig lacks" do
    runs = named(described_class.runs(chained.layout).map(&:to_h))
    expect(runs).to eq(
      [{ first: "link/a/up/33", last: "link/a/up/48", why: "no box on port A reaches these lanes" },
       { first: "link/b/up/1", last: "link/b/up/48", why: "no box is connected to port B" },
       { first: "desk/in/13", last: "desk/in/40", why: "the Alder 40 has only 12 In sockets" }]
    )
    expect(described_class.runs(chained.layout).map(&:label)).to eq(["Link A, lanes 33 to 48", "Link B, lanes 1 to 48", "In 13 to 40"])
    expect(described_class.runs(blank.layout)).to eq([])
  end
end
