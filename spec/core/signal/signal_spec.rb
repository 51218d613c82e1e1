# frozen_string_literal: true

RSpec.describe Loomshuttle::Signal do
  let(:show) { straight }
  let(:graph) { described_class.build(show) }

  def ways(from, **options) = described_class::Trace.down(graph, point(from), **options)

  it "leads a socket through preamp, send and track back to its own channel, with gain and delay" do
    louder = set(show, "channel/7/gain" => 30)
    graph = described_class.build(louder)
    way = described_class::Trace.down(graph, point("desk/in/7")).find { |one| one.points.include?(point("card/send/7")) }
    head = %w[desk/in/7 desk/ch/7@preamp card/send/7 track/7/in track/7/out card/return/7 desk/ch/7@channel-in]
    expect(named(way.points.first(head.size))).to eq(head)
    upto = Loomshuttle::Signal::Trace::Way.of(way.joins.first(head.size - 1))
    expect([described_class::Levels.planned(louder).along(upto.joins), upto.delay]).to eq([30, 48 + 1024 + 1024])
  end

  it "names the setting that made each join" do
    way = ways("desk/in/7").find { |one| one.points.include?(point("card/send/7")) }
    expect(way.joins.first(5).map(&:setting)).to eq(["channel/7/stage", "send/7/source", "track/7/inputs", nil, "track/7/outputs"])
  end

  it "knows no gain where the mix decides it" do
    way = ways("desk/in/1").find { |one| one.points.last == point("desk/ch/1@post-fader") }
    expect(described_class::Levels.planned(show).along(way.joins)).to be_nil
  end

  it "lets only the side sound that a channel is on" do
    flipped = described_class.build(set(show, "channel/2/position" => "take"))
    sources = described_class::Trace.sources(flipped, point("desk/ch/2@post-eq"), follow: described_class::Trace::LIVE)
    expect(named(sources)).to eq(["track/2/out"])
    expect(named(described_class::Trace.sources(graph, point("desk/ch/2@post-eq"), follow: described_class::Trace::LIVE))).to eq(["desk/in/2"])
  end

  it "traces upstream from a track to its socket" do
    expect(named(described_class::Trace.up(graph, point("track/5/in")).flat_map(&:points))).to eq(%w[desk/in/5 desk/ch/5@preamp card/send/5 track/5/in])
  end

  it "follows a loop once" do
    loop_show = set(show, "send/1/tap" => "channel-in", "channel/1/position" => "take")
    way = described_class::Trace.down(described_class.build(loop_show), point("card/return/1")).map(&:points)
    expect(way).to all(satisfy { |points| points.uniq == points })
  end

  it "lets lanes that the card's mode leaves out be silent" do
    small = described_class.build(set(show, "setup/card_mode" => "2 lanes"))
    expect(small.into(point("card/send/2")).first.live).to be(true)
    expect(small.into(point("card/send/3")).first.live).to be(false)
  end

  it "keeps the sides of a stereo channel apart" do
    wide = described_class.build(set(show, "channel/17/stage" => "desk/line/1", "send/17/source" => "desk/ch/17/l", "send/18/source" => "desk/ch/17/r"))
    expect(named(described_class::Trace.sources(wide, point("card/send/18")))).to eq(["desk/line/2"])
  end
end

RSpec.describe Loomshuttle::Signal::Strands do
  def strands(show) = described_class.of(show, Loomshuttle::Signal.build(show))

  it "derives one strand a source, whole from socket to channel" do
    list = strands(straight)
    expect(list.size).to eq(16)
    expect(named(list[6].to_h)).to eq(socket: "desk/in/7", channel: "desk/ch/7", send: 7, tap: "preamp", track: 7, track_lane: 0, return: 7, home: ["desk/ch/7"])
    expect(list).to all(be_comes_home)
  end

  it "tells several sends of one channel apart" do
    list = strands(set(straight(2), "send/9/source" => "desk/ch/1"))
    expect(list.map(&:send)).to contain_exactly(1, 9, 2)
  end

  it "knows strands that begin at a mix, break off, or only play" do
    list = strands(set(straight(1), "send/5/source" => "desk/bus/2", "send/5/tap" => "post-fader", "channel/4/name" => "Lonely", "track/9/outputs" => [9]))
    expect(named(list.map { |one| [one.channel, one.send, one.track] })).to contain_exactly(["desk/ch/1", 1, 1], ["desk/ch/4", nil, nil], ["desk/bus/2", 5, nil], [nil, nil, 9])
  end

  it "sees a take that comes back on another channel" do
    crossed = set(straight, "track/14/outputs" => [15], "track/15/outputs" => [14])
    expect(named(strands(crossed).reject(&:comes_home?).map(&:channel))).to eq(["desk/ch/14", "desk/ch/15"])
  end
end

RSpec.describe Loomshuttle::Signal::Sheet do
  def sheet(show) = described_class.new(show, Loomshuttle::Signal::Strands.of(show, Loomshuttle::Signal.build(show)))

  it "draws a straight patch with straight threads, and no loose ends" do
    drawn = sheet(straight)
    expect(drawn.threads.size).to eq(16 * 4)
    expect(drawn.threads).to all(have_attributes(straight: true))
    expect(drawn.loose).to eq([])
  end

  it "draws crossing threads where the patch crosses" do
    drawn = sheet(set(straight, "channel/6/stage" => "desk/in/9", "channel/9/stage" => "desk/in/6"))
    crossing = drawn.threads.reject(&:straight)
    expect(named(crossing.map { |thread| [thread.from, thread.to] })).to contain_exactly(["desk/in/9", "desk/ch/6"], ["desk/in/6", "desk/ch/9"])
  end

  it "shows where a strand breaks, on either side" do
    drawn = sheet(set(straight, "track/3/inputs" => [], "track/3/outputs" => [], "channel/5/stage" => nil))
    expect(named(drawn.loose.map(&:to_h))).to contain_exactly({ port: "card/send/3", side: "right" }, { port: "desk/ch/5", side: "left" })
  end

  it "keeps both rows of a stereo track beside its lanes" do
    wide = set(straight(2), "track/3/stereo" => true, "send/3/source" => "desk/main/l", "send/3/tap" => "post-fader",
                            "send/4/source" => "desk/main/r", "send/4/tap" => "post-fader", "track/3/inputs" => [3, 4])
    expect(sheet(wide).threads.select { |thread| thread.to.start_with?("track/3") }).to contain_exactly(have_attributes(straight: true), have_attributes(straight: true))
  end
end

RSpec.describe Loomshuttle::Signal::Story do
  it "tells a strand hop by hop with what has come together" do
    show = set(straight, "channel/4/gain" => 31)
    graph = Loomshuttle::Signal.build(show)
    hops = described_class.new(show, graph, Loomshuttle::Signal::Levels.planned(show)).of_strand(Loomshuttle::Signal::Strands.of(show, graph)[3])
    expect(hops.map(&:label)).to eq(["In 4", "Channel 4 at preamp", "Card send 4", "Track 4 in", "Track 4 out", "Card return 4", "Channel 4 at channel in"])
    expect(hops.last.to_h).to include(total_gain_db: 31, total_delay: 2096, live: false, setting: "channel/4/take")
  end
end
