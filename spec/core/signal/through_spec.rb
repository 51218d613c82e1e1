# frozen_string_literal: true

RSpec.describe Loomshuttle::Signal::Story do
  let(:show) { set(straight(32, from: chained), "output/15/source" => "desk/main/l", "channel/3/gain" => 20) }
  let(:graph) { Loomshuttle::Signal.build(show) }

  let(:story) { described_class.new(show, graph, Loomshuttle::Signal::Levels.planned(show)) }

  def ways(name) = named(story.through(point(name)).map { |hops| hops.map(&:point) })

  it "leads through a socket, a lane, a channel, a card send, a track and a return alike" do
    whole = %w[box-a/in/3 link/a/up/3 desk/ch/3@preamp card/send/3 track/3/in track/3/out card/return/3 desk/ch/3@channel-in]
    %w[box-a/in/3 link/a/up/3 desk/ch/3 card/send/3 track/3/in card/return/3].each { |point| expect(ways(point)).to include(start_with(*whole)), point }
  end

  it "leads from an output back to the mix, and from the mix to its sockets" do
    expect(ways("box-b/out/7")).to eq([%w[desk/main/l@pre-eq desk/main/l@post-eq desk/main/l@pre-fader desk/main/l@post-fader desk/output/15 link/a/down/15 box-b/out/7]])
    expect(ways("desk/output/15").map(&:last)).to include("box-b/out/7")
  end

  it "tells every hop with gain, delay and the setting that made it" do
    hops = story.through(point("box-a/in/3")).find { |one| one.any? { |hop| hop.point == point("card/return/3") } }
    expect(hops.first(4).map { |hop| [hop.label, hop.gain_db, hop.delay, hop.setting] }).to eq(
      [["Box A in 3", 0, 0, nil], ["Link A, lane 3", 0, 12, "box/a/input_offset"], ["Channel 3 at preamp", 20, 0, "channel/3/stage"], ["Card send 3", 0, 48, "send/3/source"]]
    )
  end

  it "has nothing to tell of a point that nothing runs through" do
    expect(ways("desk/line/4")).to eq([])
  end
end

RSpec.describe Loomshuttle::Signal::Broken do
  def context(show) = Loomshuttle::Checks::Context.of(show)

  it "says which strands lose what when a box goes" do
    show = straight(20, from: chained)
    gone = Loomshuttle::Steps::Chain.remove(show, "b").apply(show).first
    losses = described_class.between(context(show), context(gone))
    expect(named(losses.first.to_h)).to eq(name: "Channel 17 Source 17", channel: "desk/ch/17", lost: ["its socket"])
    expect(losses.size).to eq(4)
    expect(described_class.between(context(show), context(show))).to eq([])
  end
end

RSpec.describe Loomshuttle::Steps::Propose do
  it "knows every kind it names, and asks for what is missing" do
    asked = described_class::KINDS.keys.to_h do |kind|
      [kind, described_class.for(chained, kind, {}) && "made"]
    rescue Loomshuttle::Invalid => e
      [kind, e.message[/needs \w+\.\z/] || e.message]
    end
    expect(asked.select { |_, words| words == "made" }.keys).to eq(%w[main_mix auto_patch])
    expect(asked.except("main_mix", "auto_patch", "listeners", "speaker_delays", "playback_wishes", "split_playback").values).to all(match(/\Aneeds \w+\.\z/))
    expect(described_class::OPTIONS.keys).to eq(described_class::KINDS.keys)
    expect { described_class.for(blank, "magic", {}) }.to raise_error(Loomshuttle::Invalid, /no step "magic"/)
  end

  it "lets one device lead the clock" do
    show = described_class.for(chained, "clock", { "leader" => "box-a" }).edit.apply(chained).first
    expect([show.rig.desk_clock, show.boxes["a"].clock, show.boxes["b"].clock]).to eq(%w[follows leads follows])
    expect(findings(show)).to eq([])
  end
end
