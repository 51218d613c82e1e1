# frozen_string_literal: true

RSpec.describe Loomshuttle::Rig::Layout do
  let(:show) { chained }
  let(:layout) { show.layout }

  it "gives two chained boxes of 16 inputs the lanes 1 to 32 of their link" do
    expect(named((1..32).map { |n| layout.socket_of(point("link/a/up/#{n}")) })).to eq((1..16).map { |n| "box-a/in/#{n}" } + (1..16).map { |n| "box-b/in/#{n}" })
    expect(layout.source(point("link/a/up/33")).missing).to eq("no box on port A reaches lane 33")
  end

  # Common practice, no published source: outputs 1 to 8 leave on the first box, 9 to 16 on the second, so that main
  # left and right on outputs 15 and 16 appear on sockets 7 and 8 of the second box.
  it "lets main left and right on outputs 15 and 16 appear on sockets 7 and 8 of the second box" do
    mains = set(show, "output/15/source" => "desk/main/l", "output/16/source" => "desk/main/r")
    graph = Loomshuttle::Signal.build(mains)
    ends = ->(side) { Loomshuttle::Signal::Trace.down(graph, point("desk/main/#{side}@post-fader")).map { |way| way.points.last.name } }
    expect(ends.call("l")).to include("box-b/out/7")
    expect(ends.call("r")).to include("box-b/out/8")
    expect(named((1..8).map { |n| layout.sockets_of_outlet(point("link/a/down/#{n}")) })).to eq((1..8).map { |n| ["box-a/out/#{n}"] })
  end

  # AES50-2011: 48 channels each way at 44.1/48 kHz, 24 at 88.2/96 kHz.
  { 44_100 => 48, 48_000 => 48, 88_200 => 24, 96_000 => 24, 32_000 => 0, 192_000 => 0 }.each do |rate, lanes|
    it "counts #{lanes} lanes each way at #{rate} Hz" do
      expect(Loomshuttle::Rig::Aes50.lanes(rate)).to eq(lanes)
    end
  end

  it "cuts off what a link does not carry at double rate" do
    fast = set(chained("hazel-56"), "rig/rate" => 96_000)
    expect(fast.layout.source(point("link/a/up/24")).socket.name).to eq("box-b/in/8")
    expect(fast.layout.source(point("link/a/up/25")).missing).to eq("link A carries 24 lanes at 96.0 kHz")
  end

  it "says why a socket that a block can name is missing" do
    expect(layout.source(point("desk/in/12")).missing).to be_nil
    expect(layout.source(point("desk/in/13")).missing).to eq("the Alder 40 has only 12 In sockets")
    expect(layout.source(point("link/b/up/1")).missing).to eq("no box is connected to port B")
  end

  it "follows the offsets of a box" do
    moved = set(show, "box/b/input_offset" => 24, "box/b/output_offset" => 0)
    expect(named(moved.layout.socket_of(point("link/a/up/25")))).to eq("box-b/in/1")
    expect(moved.layout.source(point("link/a/up/17")).missing).not_to be_nil
    expect(named(moved.layout.sockets_of_outlet(point("link/a/down/1")))).to eq(["box-a/out/1", "box-b/out/1"])
  end

  it "adds boxes behind each other, and takes one away without moving the others" do
    add = ->(now) { Loomshuttle::Steps::Chain.add(now, profile: "bramble-16", port: "a").apply(now).first }
    grown = add.call(add.call(blank("alder-40")))
    expect(grown.boxes).to eq(show.boxes)
    gone = Loomshuttle::Steps::Chain.remove(grown, "a").apply(grown).first
    expect(named(gone.layout.socket_of(point("link/a/up/17")))).to eq("box-b/in/1")
    expect(gone.layout.source(point("link/a/up/1")).missing).not_to be_nil
    expect { Loomshuttle::Steps::Chain.remove(gone, "a") }.to raise_error(Loomshuttle::Invalid, /no box A/)
  end
end

RSpec.describe Loomshuttle::Settings::Refit do
  it "changes the desk, says what the new one lacks, and comes back whole" do
    show = set(straight(16), "channel/17/name" => "Interval music", "box/a/profile" => "bramble-16")
    expect { set(show, "rig/desk" => "rowan-10") }.to raise_error(Loomshuttle::Invalid, /Rowan 10 has no place for \d+ settings/)
    edit = Loomshuttle::Settings::Edit.set("Change the desk", described_class.settings(show, "rowan-10"))
    small, changes = edit.apply(show)
    expect(small.channels.values.map(&:title).last(2)).to eq(["Source 13", "Source 14"])
    expect(named([small.channels[10].stage, small.channels[11].stage, small.tracks[2].inputs, small.tracks[3].inputs])).to eq(["desk/in/10", nil, [2], []])
    back, again = Loomshuttle::Settings::Edit.inverse("back", changes).apply(small)
    expect(back).to eq(show)
    expect(Loomshuttle::Settings::Edit.inverse("redo", again).apply(back).first).to eq(small)
  end

  it "keeps the blocks of a desk that patches in blocks together" do
    crossed = set(straight(16), "channel/3/take" => "card/return/9", "channel/9/take" => "card/return/3", "channel/5/position" => "take")
    alder = Loomshuttle::Settings::Edit.set("x", described_class.settings(crossed, "alder-40")).apply(crossed).first
    expect(named((1..16).map { |n| alder.channels[n].take })).to eq((1..16).map { |n| "card/return/#{n}" })
    expect(alder.channels[5].position).to eq("stage")
    expect(alder.channels[3].name).to eq("Source 3")
  end

  it "keeps everything on a desk that has more" do
    show = straight(12)
    larger = Loomshuttle::Settings::Edit.set("x", described_class.settings(show, "hazel-56")).apply(show).first
    expect(larger.channels[8].stage).to be_nil.or eq(point("desk/in/8"))
    expect(larger.channels[12].name).to eq("Source 12")
    expect(larger.tracks[12].inputs).to eq([12])
  end
end
