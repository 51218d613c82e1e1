# frozen_string_literal: true

RSpec.describe Loomshuttle::Patch::Show do
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
    expect(described_class.load(CoreHelp::PROFILE, full.about, mixed)).to eq(full)
  end

  {
    "channel/99/name" => ["x", /no channel 99/], "channel/1/nonsense" => ["x", /known here: name/], "nonsense" => ["x", /settings start with/],
    "channel/1/name" => ["x" * 41, /41 characters, 40 fit/], "channel/1/colour" => ["mauve", /not one of/],
    "channel/1/stage" => ["desk/in/17", %r{desk/in/1 to desk/line/2}], "channel/17/stage" => ["desk/in/2", /stereo and needs an odd lane/],
    "channel/17/take" => ["card/return/20", /odd lane/], "channel/1/position" => ["moon", /stage, take/],
    "channel/1/gain" => [61, /0 to 60 dB/], "channel/2/gain" => [10.5, /steps of 1 dB/], "channel/3/gain" => ["loud", /number of dB/],
    "send/1/source" => ["desk/main/l", /pre-fader or post-fader/], "send/1/tap" => ["nowhere", /preamp, channel-in/],
    "track/1/inputs" => [[1, 2], /one lane/], "track/2/inputs" => [[21], /lanes 1 to 20, not 21/], "track/1/armed" => ["yes", /true or false/],
    "setup/buffer" => [1000, /512, 1024/], "setup/card_mode" => ["9 lanes", /20 lanes, 2 lanes/], "send/21/tap" => ["preamp", /no send 21/]
  }.each do |path, (value, message)|
    it "refuses #{value.to_s[0, 20]} for #{path} and says where" do
      expect { show.put(path, value) }.to raise_error(Loomshuttle::Invalid, message) { |error| expect(error.where).to eq(path) }
    end
  end

  it "refuses characters that cannot be shown" do
    expect { show.put("channel/1/name", "a\nb") }.to raise_error(Loomshuttle::Invalid, /cannot be shown/)
  end
end
