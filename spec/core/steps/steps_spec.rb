# frozen_string_literal: true

RSpec.describe Loomshuttle::Steps::TracksFromChannels do
  def made(show, **words) = described_class.edit(show, **words).apply(show).first

  it "makes mono tracks with ascending inputs and outputs that come home" do
    show = made(set(blank, "channel/3/name" => "Fiddle", "channel/3/colour" => "woad"), first: 3, count: 4, track: 1, lane: 5)
    expect(show.tracks.values.first(4).map { |track| [track.inputs, track.outputs, track.armed] }).to eq((5..8).map { |n| [[n], [n], true] })
    expect(named((3..6).map { |n| show.channels[n].take })).to eq((5..8).map { |n| "card/return/#{n}" })
    expect([show.title_of(show.tracks[1]), show.dye_of(show.tracks[1])]).to eq(%w[Fiddle woad])
  end

  it "makes stereo tracks of neighbouring channels" do
    show = made(blank, first: 1, count: 4, stereo: true)
    expect(show.tracks.values.first(2).map { |track| [track.stereo, track.inputs, track.outputs] }).to eq([[true, [1, 2], [1, 2]], [true, [3, 4], [3, 4]]])
  end

  it "takes channels that hear the card at channel in" do
    show = made(set(blank, "channel/2/stage" => "card/return/9"), first: 1, count: 2)
    expect([1, 2].map { |lane| show.tap_of(show.sends[lane]) }).to eq(%w[preamp channel-in])
  end

  it "stays inside the device, and asks for an even number for stereo" do
    expect { made(blank, first: 15, count: 9) }.to raise_error(Loomshuttle::Invalid, /channels from 15 leave/)
    expect { made(blank, first: 1, count: 4, lane: 18) }.to raise_error(Loomshuttle::Invalid, /card lanes from 18 leave/)
    expect { made(blank, first: 1, count: 3, stereo: true) }.to raise_error(Loomshuttle::Invalid, /even number/)
  end
end

RSpec.describe Loomshuttle::Steps::SparePair do
  it "captures the main mix post-fader on the last spare pair" do
    show = described_class.edit(straight).apply(straight).first
    expect(named([show.point_of(show.sends[19]), show.point_of(show.sends[20])])).to eq(%w[desk/main/l@post-fader desk/main/r@post-fader])
    track = show.tracks.values.find(&:stereo)
    expect([track.inputs, track.outputs, track.armed, show.title_of(track)]).to eq([[19, 20], [], true, "Main mix"])
    expect(findings(show)).to eq([])
    expect { described_class.edit(show) }.to raise_error(Loomshuttle::Invalid, /captured already/)
  end
end

RSpec.describe Loomshuttle::Steps::Pairs do
  it "joins two channels and their tracks, and splits them again" do
    show = set(straight(4), "channel/1/name" => "Quay L", "channel/2/name" => "Quay R", "track/1/name" => "", "track/2/name" => "")
    joined = described_class.join(show, 2).apply(show).first
    expect([joined.channels[1].paired, joined.tracks[1].stereo, joined.tracks[1].inputs, joined.tracks[2].used?]).to eq([true, true, [1, 2], false])
    expect(joined.title_of(joined.tracks[1])).to eq("Quay")
    expect(findings(joined)).to eq([])
    split = described_class.split(joined, 1).apply(joined).first
    expect(split.tracks.values.first(2).map do |track|
      [track.stereo, track.inputs, track.outputs, split.title_of(track)]
    end).to eq([[false, [1], [1], "Quay L"], [false, [2], [2], "Quay R"]])
  end

  it "says what is not a pair" do
    expect { described_class.join(straight, 17) }.to raise_error(Loomshuttle::Invalid, /no mono neighbour/)
    expect { described_class.split(straight, 3) }.to raise_error(Loomshuttle::Invalid, /not a stereo pair/)
  end
end

RSpec.describe Loomshuttle::Settings::Telling do
  def told(show, path, from, to) = described_class.line(described_class.change(show, path, from, to))

  it "says changes in a person's words" do
    show = set(chained, "channel/7/name" => "Fiddle")
    expect(told(show, "channel/7/stage", "link/a/up/7", "link/a/up/17")).to eq("Channel 7 Fiddle: stage source Box A in 7 (link A, lane 7) → Box B in 1 (link A, lane 17)")
    expect(told(show, "send/3/tap", nil, "post-eq")).to eq("Card send 3: tap as the show → post-EQ")
    expect(told(show, "track/2/inputs", [], [2, 3])).to eq("Track 2: card sends none → 2 and 3")
    expect(told(show, "channel/7/gain", -3, 30)).to eq("Channel 7 Fiddle: preamp gain −3 dB → 30 dB")
    expect(told(show, "box/b/input_offset", 16, 0)).to eq("Box B: input offset 16 → 0")
  end

  it "has words for every setting there is" do
    show = straight(4, from: chained)
    show.settings.each { |path, value| expect(told(show, path, value, nil)).not_to include("_", "nil") }
  end
end

RSpec.describe Loomshuttle::Settings::Compare do
  it "lists what differs between two shows, also of different desks" do
    one = straight(2)
    expect(described_class.shows(one, set(one, "channel/1/gain" => 9)).map(&:to_h)).to eq([{ path: "channel/1/gain", from: 0, to: 9 }])
    expect(described_class.shows(one, one)).to eq([])
    expect(described_class.shows(one, blank("hazel-56")).map(&:path)).to include("rig/desk", "channel/1/stage").and not_include("channel/40/stage")
  end

  it "finds the way from any show to any other, over random rigs" do
    shows = Array.new(6) { |seed| RandomRig.new(seed).show.with(about: { name: "x" }) }
    shows.product(shows).each { |one, other| expect(set(one, described_class.way(one, other))).to eq(other), "#{one.rig.desk} to #{other.rig.desk}" }
  end

  RSpec::Matchers.define_negated_matcher :not_include, :include
end

RSpec.describe Loomshuttle::Settings::PresetParts do
  it "saves parts, which together are all that is patched" do
    show = straight(4)
    paths = show.settings.keys.reject { |path| path.start_with?("setup/", "listener/", "wish/", "role/", "setlist/") } # who listens and what is played is not a patch
    parts = described_class::NAMES.map { |part| described_class.of(show, [part]).keys }
    expect(parts.flatten).to match_array(paths)
    expect { described_class.of(show, ["soup"]) }.to raise_error(Loomshuttle::Invalid, /no soup to save/)
  end

  def recalled(show, settings) = set(show, Loomshuttle::Steps::Recall.settings(show, settings).first)

  it "brings a part back whole, and says what this rig lacks" do
    saved = described_class.of(straight(4), %w[sends names])
    lacks = Loomshuttle::Steps::Recall.settings(blank("rowan-10"), saved).last
    expect(lacks).to include("channel/17/name", "send/3/source")
    show = set(straight(4), "send/2/source" => nil, "track/2/inputs" => [], "channel/2/name" => "X")
    expect(recalled(show, saved)).to eq(straight(4))
  end

  it "lets a track give up lanes of another width" do
    wide = set(straight(4), "track/2/inputs" => [], "track/2/outputs" => [], "track/2/stereo" => true)
    expect(recalled(wide, described_class.of(straight(4), ["sends"])).tracks[2]).to have_attributes(stereo: false, inputs: [2], outputs: [])
  end

  it "changes the desk with the rig, and moves blocks along" do
    other = recalled(straight(16), described_class.of(chained, ["rig"]))
    expect([other.rig.desk, other.layout.hung.size, other.channels[1].name]).to eq(["alder-40", 2, "Source 1"])
    saved = described_class.of(straight(16, from: chained), ["returns"])
    expect(recalled(chained, saved).channels[16].take).to eq(point("card/return/16"))
  end
end

RSpec.describe Loomshuttle::Rig::Fill do
  it "counts used and available lanes of links and card both ways" do
    show = set(straight(20, from: chained), "output/15/source" => "desk/main/l", "output/16/source" => "desk/main/r")
    links = described_class.links(show)
    expect(links["a"][:up].to_h).to eq(used: 24, sockets: 32, lanes: 48) # three blocks of eight
    expect(links["a"][:down].to_h).to eq(used: 2, sockets: 16, lanes: 48)
    expect(links["b"][:up].to_h).to eq(used: 0, sockets: 0, lanes: 48)
    expect(described_class.card(show).transform_values(&:to_h)).to eq(up: { used: 20, sockets: 40, lanes: 40 }, down: { used: 24, sockets: 40, lanes: 40 })
  end
end
