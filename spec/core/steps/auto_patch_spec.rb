# frozen_string_literal: true

RSpec.describe Loomshuttle::Steps::AutoPatch do
  def entry(name, **more)
    Loomshuttle::Formats::InputList::Entry.new(line: 1, channel: nil, name: name, short: "", socket: nil, mic: "", stand: "", phantom: false, spot: nil, colour: nil,
                                               gain: nil, notes: "", stereo: false, **more)
  end

  def names(count) = (1..count).map { |n| entry("Source #{n}") }
  def patched(show, entries = nil, **options) = described_class.edit(show, entries, **options).apply(show).first
  def strands(show) = Loomshuttle::Checks::Context.of(show).strands

  it "patches a list straight through from sockets to tracks and back, and leaves nothing to find" do
    show = patched(chained, names(30))
    whole = strands(show).select { |strand| strand.channel && show.channel_at(strand.channel).name != "" }
    expect(named(whole.map { |one| [one.socket, one.channel, one.send, one.track, one.return] })).to eq(
      (1..30).map { |n| ["box-#{n <= 16 ? 'a' : 'b'}/in/#{((n - 1) % 16) + 1}", "desk/ch/#{n}", n, n, n] }
    )
    expect(whole).to all(be_comes_home)
    expect(findings(show)).to eq([])
  end

  it "has nothing to do a second time" do
    show = patched(chained, names(30))
    expect(described_class.parts(show, names(30))).to eq([])
    expect(described_class.parts(show)).to eq([])
  end

  it "puts pairs on neighbouring odd and even channels, lanes and one stereo track" do
    show = patched(chained("hazel-56"), [entry("Tuba"), entry("Accordion L"), entry("Accordion R"), entry("Fiddle")])
    pair = %w[L R].map { |side| show.channels.values.find { |channel| channel.name == "Accordion #{side}" }.number }
    expect(pair).to eq([3, 4])
    track = show.tracks.values.find(&:stereo)
    expect([track.inputs, track.outputs, show.title_of(track)]).to eq([[3, 4], [3, 4], "Accordion"])
    expect(show.channels[2].name).to eq("Fiddle")
    expect(findings(show)).to eq([])
  end

  it "takes the box that stands nearest, and what the list asks for" do
    stage = set(chained("hazel-56"), "box/a/spot" => "left", "box/b/spot" => "right")
    show = patched(stage, [entry("Drum", spot: "right"), entry("Bass", spot: "left"), entry("Guest", socket: point("link/a/up/30"))])
    sockets = show.channels.values.first(3).map { |channel| show.layout.socket_of(channel.stage) }
    expect(named(sockets)).to eq(["box-b/in/1", "box-a/in/2", "box-b/in/14"])
  end

  it "tells what the list asks for and cannot have" do
    show = straight(8, from: chained)
    list = [entry("Source 3"), entry("Guest", channel: 3, socket: point("link/a/up/4")), entry("Source 4", channel: 9), entry("Piper", channel: 10, socket: point("link/a/up/10"))]
    expect(described_class.unmet(show, list).map { |_, message| message[/\A.*(?=:)/] }).to eq(
      ["Guest gets channel 9, not channel 3", "Source 4 gets channel 4, not channel 9", "Guest gets Box A in 9, not Box A in 4"]
    )
  end

  it "gives nobody a socket that another line of the list asks for" do
    show = patched(chained("hazel-56"), [entry("Anybody"), entry("Guest", socket: point("link/a/up/1"))])
    expect(named([1, 2].map { |n| show.channels[n].stage })).to eq(["link/a/up/2", "link/a/up/1"])
  end

  it "keeps what is right and completes what is missing" do
    half = set(straight(8), "track/3/outputs" => [], "channel/5/stage" => nil, "channel/1/stage" => "desk/in/16")
    show = patched(half)
    expect(named([show.channels[1].stage, show.channels[5].stage])).to eq(["desk/in/16", "desk/in/1"]).or eq(["desk/in/16", "desk/in/5"])
    expect(show.sends).to eq(half.sends)
  end

  it "uses a send that waits for a track, and plays to no return that somebody else has" do
    show = set(straight(8), "track/5/inputs" => [], "track/5/outputs" => [], "track/5/armed" => false, "track/5/name" => "", "track/6/outputs" => [5])
    after = patched(show)
    expect(after.tracks[5]).to have_attributes(inputs: [5], outputs: [], armed: true)
    expect(findings(after).map(&:id) - findings(show).map(&:id)).to eq([])
  end

  it "makes nothing wrong that was not, over random rigs" do
    25.times do |seed|
      show = RandomRig.new(seed).show
      after = patched(show, names(4))
      fresh = findings(after).select { |finding| finding.severity == "blocks" }.map(&:id) - findings(show).map(&:id)
      expect(fresh.grep_v(/missing-socket|channel-without-socket|card-mode/)).to eq([]), "seed #{seed}"
    end
  end

  # On a large desk that took most of the time of an edit that leaves a source without a way.
  it "does not look at what a list has no more where only ways are asked for" do
    show = patched(chained, names(30))
    allow(Loomshuttle::Steps::RemovedInput).to receive(:settings).and_call_original
    described_class.ways(show, [3])
    expect(Loomshuttle::Steps::RemovedInput).not_to have_received(:settings)
  end

  it "patches only the parts that were accepted" do
    show = patched(chained("hazel-56"), names(4), only: ["Source 2", "Source 4"])
    expect(show.channels.values.reject { |channel| channel.name.empty? }.map(&:name)).to eq(["Source 2", "Source 4"])
  end

  it "takes a channel that hears the card at channel in, and gives it no take source" do
    show = patched(set(blank("hazel-56"), "channel/1/stage" => "card/return/9", "channel/1/name" => "Sea sounds"))
    expect([show.tap_of(show.sends[1]), show.channels[1].take]).to eq(["channel-in", nil])
    expect(findings(show)).to eq([])
  end

  it "fits a list as far as channels go, and names the lines that it leaves out" do
    list = names(16)
    show = patched(blank("rowan-10"), list)
    expect(show.channels.values.map(&:name)).to eq(list.first(14).map(&:name))
    left = described_class.unmet(blank("rowan-10"), list).select { |_, words| words.include?("left out") }
    expect(left.map { |entry, words| [entry.name, words] }).to eq([15, 16].map do |n|
      ["Source #{n}", "Source #{n} is left out: none of the 14 channels of the Rowan 10 is free"]
    end)
  end

  it "gives the channel of a line that is not wanted to one that is" do
    show = blank("rowan-10")
    kinds = ->(only) { described_class.parts(show, names(15), only: only).group_by(&:kind).transform_values { |list| list.map(&:title) } }
    expect(kinds.call(nil)["left out"]).to eq(["Source 15"])
    wanted = names(15).map(&:name) - ["Source 2"]
    expect(kinds.call(wanted)).to eq("new" => wanted, "left out" => ["Source 2"])
    expect(patched(show, names(15), only: wanted).channels.values.map(&:name)).to match_array(wanted)
    expect(patched(show, names(15), only: [*wanted, "Source 2"]).channels.values.map(&:name)).to eq(names(14).map(&:name))
  end

  it "puts a line with both sides on a stereo channel that is free, and on a pair of mono ones otherwise" do
    both = ->(name, **more) { entry(name, stereo: true, **more) }
    show = patched(blank("rowan-16"), [*names(16), both.call("Keys")])
    expect([show.channels[17].name, show.tracks[17].stereo]).to eq(["Keys", true])
    show = patched(blank("rowan-16"), [both.call("Keys", channel: 3), both.call("OH"), both.call("Room")])
    expect(show.channels.values.reject { |channel| channel.name.empty? }.map { |channel| [channel.number, channel.name, channel.paired] }).to eq(
      [[1, "Room L", true], [2, "Room R", false], [3, "Keys L", true], [4, "Keys R", false], [17, "OH", false]]
    )
    expect(patched(show, [both.call("Keys"), both.call("OH"), both.call("Room")])).to eq(show)
  end

  it "keeps the sides of a pair on neighbouring sockets of one box" do
    list = [*names(15), entry("Keys L"), entry("Keys R"), entry("Late")]
    show = patched(chained("hazel-56"), list)
    sockets = list.to_h { |one| [one.name, show.layout.socket_of(show.channels.values.find { |channel| channel.name == one.name }.stage).name] }
    expect(sockets.values_at("Keys L", "Keys R", "Late")).to eq(["box-b/in/1", "box-b/in/2", "box-a/in/16"])
  end

  it "fits a list that has as many lines as the desk has channels, the last of them stereo" do
    show = patched(blank("rowan-16"), names(17))
    expect(show.channels[17]).to have_attributes(name: "Source 17", stage: point("desk/line/1"), take: point("card/return/17"))
    expect([17, 18].map { |lane| show.sends[lane].source }).to eq([point("desk/ch/17/l"), point("desk/ch/17/r")])
    expect(show.tracks[17]).to have_attributes(stereo: true, inputs: [17, 18], outputs: [17, 18], armed: true)
  end

  it "gives a stereo channel an odd socket with its neighbour, which nobody else gets then" do
    list = [*names(15), entry("Keys", channel: 17), entry("Spare", channel: 16, socket: point("desk/line/2"))]
    show = patched(blank("rowan-16"), list)
    expect([17, 16].map { |number| show.channels[number].stage }).to eq([point("desk/line/1"), point("desk/in/16")])
    later = patched(show, [entry("Late", channel: 16, socket: point("desk/line/2"))])
    expect(later.channels[16].stage).to eq(point("desk/in/16"))
  end

  it "keeps both sides of pairs together, in whatever order their lines are" do
    ["Keys L", "Drums L", "Keys R", "Drums R"].permutation do |names|
      list = names.map { |name| entry(name) }
      expect(described_class.parts(chained("hazel-56"), list).map(&:title)).to eq(names)
      show = patched(chained("hazel-56"), list)
      sends = show.sends.values.select(&:source).to_h { |send| [show.channel_at(send.source).name, send.lane] }
      expect([["Keys L", "Keys R"], ["Drums L", "Drums R"]].map { |pair| sends.values_at(*pair) }).to all(satisfy { |left, right| left.odd? && right == left + 1 }), names.join
      expect(findings(show)).to eq([])
    end
  end

  it "never fails on any profile, with a name on each channel" do
    catalog = blank("rowan-10").catalog
    catalog.ids("desk").each do |desk|
      show = blank(desk)
      show = set(show, show.channels.keys.to_h { |number| ["channel/#{number}/name", "Source #{number}"] })
      expect { patched(show) }.not_to raise_error
    end
  end

  it "never breaks a fixed strand, over random patches" do
    40.times do |seed|
      random_rig = RandomRig.new(seed)
      random = random_rig.random
      fixed = random_rig.show.channels.keys.sample(5, random: random)
      show = set(random_rig.show, fixed.to_h { |n| ["channel/#{n}/fixed", true] })
      after = patched(show, names(random.rand(1..8)))
      fixed.each { |n| expect(after.channels[n].to_h).to eq(show.channels[n].to_h), "channel #{n} of seed #{seed}" }
      fixed_sends = show.sends.select { |_, send| fixed.include?(show.channel_at(send.source)&.number) }
      expect(after.sends.slice(*fixed_sends.keys)).to eq(fixed_sends)
    end
  end
end
