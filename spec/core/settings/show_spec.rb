# frozen_string_literal: true

RSpec.describe Loomshuttle::Settings::Show do
  let(:show) { blank }

  it "is frozen through and through" do
    expect([show, show.channels, show.channels[1], show.tracks[1].inputs, show.put("track/1/inputs", [3]).tracks[1].inputs]).to all(be_frozen)
  end

  it "leaves the old show alone when a setting changes" do
    changed = show.put("channel/3/name", "Fiddle")
    expect(changed.get("channel/3/name")).to eq("Fiddle")
    expect(show.get("channel/3/name")).to eq("")
  end

  it "comes back the same from its settings, whatever their order" do
    full = set(straight, "send/17/source" => "desk/main/l", "send/17/tap" => "post-fader", "track/18/stereo" => true, "track/18/inputs" => [17, 18])
    mixed = full.settings.to_a.shuffle(random: Random.new(4)).to_h
    expect(described_class.load(CoreHelp::CATALOG, full.about, mixed)).to eq(full)
  end

  {
    "channel/99/name" => ["x", /no channel 99/], "channel/1/nonsense" => ["x", /known here: name/], "nonsense" => ["x", /settings start with/],
    "channel/1/name" => ["x" * 41, /41 characters; the limit is 40/], "channel/1/colour" => ["mauve", /not one of/],
    "channel/1/stage" => ["desk/in/17", %r{desk/in/1 to card/return/20}], "channel/17/stage" => ["desk/in/2", /stereo and needs an odd lane/],
    "channel/17/take" => ["card/return/20", /odd lane/], "channel/1/position" => ["moon", /stage, take/],
    "channel/1/gain" => [61, /0 to 60 dB/], "channel/2/gain" => [10.5, /steps of 1 dB/], "channel/3/gain" => ["loud", /number of dB/],
    "output/1/source" => ["desk/in/1", %r{desk/bus/1 to card/return/20}], "outlet/out-1/first" => [11, /1 to 10/], "outlet/b-9/first" => [1, /no outlet b-9/],
    "output/1/expected" => ["there", %r{reads like box-b/out/7}], "box/a/port" => ["a", /this desk has none/], "box/z/port" => ["a", /no box z/],
    "box/a/profile" => ["oak-3", /no box profile "oak-3"; known are bramble-16/], "box/a/place" => [9, /whole number from 1 to 8/],
    "rig/desk" => ["oak-3", /no desk profile/], "rig/rate" => [96_000, /48000/], "rig/desk_clock" => ["both", /leads, follows/],
    "setup/accepted" => [{ "a" => " " }, /reason in words/], "setup/length_minutes" => [0, /1 to 1440/],
    "channel/2/paired" => [true, /odd channel and the next/], "channel/1/spot" => ["roof", /left, centre, right/],
    "send/1/tap" => ["nowhere", /preamp, channel-in/],
    "track/1/inputs" => [[1, 2], /one lane/], "track/2/inputs" => [[21], /lanes 1 to 20, not 21/], "track/1/armed" => ["yes", /true or false/],
    "setup/buffer" => [1000, /512, 1024/], "setup/card_mode" => ["9 lanes", /20 lanes, 2 lanes/], "send/21/tap" => ["preamp", /no send 21/]
  }.each do |path, (value, message)|
    it "refuses #{value.to_s[0, 20]} for #{path} and says where" do
      expect { show.put(path, value) }.to raise_error(Loomshuttle::Invalid, message) { |error| expect(error.where).to eq(path) }
    end
  end

  it "refuses a tap that the source of a send does not have" do
    own = set(show, "send/1/tap" => "preamp")
    expect { own.put("send/1/source", "desk/main/l") }.to raise_error(Loomshuttle::Invalid, /pre-fader or post-fader only; set the tap first/)
  end

  it "takes sends at the show's default tap until they have one of their own, and a mix at what it has" do
    shown = set(show, "send/1/source" => "desk/ch/1", "send/2/source" => "desk/main/l", "send/3/source" => "desk/ch/3", "send/3/tap" => "post-eq")
    taps = ->(one) { [1, 2, 3].map { |lane| one.tap_of(one.sends[lane]) } }
    expect(taps.call(shown)).to eq(%w[preamp post-fader post-eq])
    expect(taps.call(set(shown, "setup/default_tap" => "channel-in"))).to eq(%w[channel-in post-fader post-eq])
  end

  it "calls a track after its source until it has a name of its own" do
    pair = set(straight(3), "channel/1/name" => "Accordion L", "channel/2/name" => "Accordion R", "channel/1/colour" => "woad",
                            "track/1/name" => "", "track/2/inputs" => [], "track/2/outputs" => [], "track/1/stereo" => true,
                            "track/1/inputs" => [1, 2], "track/1/outputs" => [1, 2], "track/3/name" => "", "channel/3/name" => "")
    expect([1, 3].map { |n| pair.title_of(pair.tracks[n]) }).to eq(["Accordion", "Track 3"])
    expect(pair.dye_of(pair.tracks[1])).to eq("woad")
    expect(pair.title_of(set(pair, "track/1/name" => "Box").tracks[1])).to eq("Box")
  end

  it "refuses characters that cannot be shown" do
    expect { show.put("channel/1/name", "a\nb") }.to raise_error(Loomshuttle::Invalid, /cannot be shown/)
  end
end
