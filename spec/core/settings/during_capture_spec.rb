# frozen_string_literal: true

RSpec.describe Loomshuttle::Settings::DuringCapture do
  let(:show) { set(straight(8, from: chained("hazel-56")), "track/8/armed" => false, "channel/2/position" => "take") }

  def harm(settings) = described_class.of(show, Loomshuttle::Settings::Edit.set("", settings).apply(show).last).map(&:path)

  {
    "the rig" => { "box/b/profile" => nil }, "the card" => { "setup/bits" => 32 }, "a captured send" => { "send/3/tap" => "post-fader" },
    "a captured track's lanes" => { "track/3/inputs" => [4] }, "what a captured channel hears" => { "channel/3/stage" => "desk/in/3" },
    "its 48 V" => { "channel/3/phantom" => true }, "a flip to take" => { "channel/5/position" => "take" }, "the default tap" => { "setup/default_tap" => "pre-eq" }
  }.each do |what, settings|
    it("sees harm in #{what}") { expect(harm(settings)).to eq(settings.keys) }
  end

  it "sees none in names, gains, arming, tracks that are not captured, and the way back to the stage" do
    expect(harm("channel/3/name" => "x", "channel/3/gain" => 9, "track/3/armed" => false, "send/8/source" => nil, "track/8/outputs" => [], "channel/20/stage" => "desk/in/2",
                "channel/2/position" => "stage", "setup/alignment" => -20)).to eq([])
  end
end
