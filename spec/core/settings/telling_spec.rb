# frozen_string_literal: true

# Settings and values in words, as previews, comparisons and the journal tell them.
RSpec.describe Loomshuttle::Settings::Telling do
  let(:show) { set(straight(4, from: chained), "channel/2/name" => "Fiddle", "track/2/name" => "", "listener/order" => [1], "listener/1/name" => "PA") }

  def told(path, from, to) = described_class.change(show, path, from, to).to_h.values_at(:what, :field, :from, :to)

  {
    ["channel/2/gain", 12, -6] => ["Channel 2 Fiddle", "preamp gain", "12 dB", "−6 dB"],
    ["channel/2/stage", "link/a/up/17", nil] => ["Channel 2 Fiddle", "stage source", "Box B in 1 (link A, lane 17)", "none"],
    ["channel/2/phantom", false, true] => ["Channel 2 Fiddle", "48 V", "no", "yes"],
    ["channel/9/name", "", "Viola"] => ["Channel 9", "name", "none", "Viola"],
    ["send/2/tap", nil, "post-eq"] => ["Card send 2", "tap", "as the show", "post-EQ"],
    ["send/2/source", nil, "desk/ch/2"] => ["Card send 2", "source", "none", "Channel 2"],
    ["track/2/inputs", [], [2, 3]] => ["Track 2 Fiddle", "card sends", "none", "2 and 3"],
    ["box/b/profile", nil, "bramble-16"] => ["Box B", "profile", "none", "Bramble 16"],
    ["rig/desk", "alder-40", "rowan-16"] => ["Rig", "desk", "Alder 40", "Rowan 16"],
    ["rig/rate", 48_000, 44_100] => ["Rig", "rate", "48000 Hz", "44100 Hz"],
    ["setup/buffer", 256, 512] => ["Show", "recorder buffer", "256 samples", "512 samples"],
    ["output/15/expected", nil, "box-b/out/7"] => ["Output 15", "expected socket", "none", "Box B out 7"],
    ["wish/order", [], [1]] => ["Show", "requirements", "none", "Requirement 1"],
    ["wish/1/sources", [], ["channel/2", "channel/9", "return/31"]] => ["Requirement 1", "sources", "none", "Fiddle, Channel 9 and Card return 31"],
    ["wish/1/listeners", [], [1, 7]] => ["Requirement 1", "listeners", "none", "PA and Listener 7"],
    ["listener/1/hears", [], ["desk/output/15"]] => ["PA", "outputs", "nothing", "Output 15"],
    ["setlist/3/song", nil, "5a175a17-0000-4000-8000-000000000001"] => ["Entry 3", "song", "none", "from the library"],
    ["setup/accepted", {}, { "left-on-take" => "why" }] => ["Show", "accepted findings", "none", "left-on-take"]
  }.each do |(path, from, to), words|
    it("tells #{path} #{from.inspect} → #{to.inspect}") { expect(told(path, from, to)).to eq(words) }
  end

  it "has words for every setting of every desk, and never shows a path" do
    %w[rowan-10 rowan-16 sedge-24 alder-40 hazel-56].each do |desk|
      show = blank(desk)
      show.settings.each_key { |path| expect(described_class.setting(show, path)).not_to include("/", "_") }
    end
  end

  it "tells what another version has set as well as it can" do
    expect(told("lamp/3/glow_time", 1, nil)).to eq(["Lamp 3", "glow time", "1", "none"])
  end

  it "labels an edit that nobody has named by what it is about" do
    expect(described_class.label(show, "channel/2/gain" => 3)).to eq("Channel 2 Fiddle, preamp gain")
    expect(described_class.label(show, "channel/2/gain" => 3, "channel/3/gain" => 4, "send/1/tap" => nil)).to eq("Channel 2 Fiddle, preamp gain and 2 more")
    expect(described_class.label(show, {})).to eq("Nothing")
  end
end
