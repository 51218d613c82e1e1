# frozen_string_literal: true

RSpec.describe Loomshuttle::Steps::PersonalTaps do
  def settings(show, given) = described_class.settings(show, given)

  let(:show) { HearingHelp.show("personal/5/source" => "desk/ch/1") }

  it "takes a personal mix pre-fader when it gets a source, unless the edit says where" do
    expect(settings(show, "personal/1/source" => "desk/ch/1")).to eq("personal/1/source" => "desk/ch/1", "personal/1/tap" => "pre-fader")
    named = { "personal/1/source" => "desk/ch/1", "personal/1/tap" => "post-eq" }
    expect(settings(show, named)).to eq(named)
  end

  it "leaves taps alone of what has a source already, of a bus mixed for the player, and of a card return" do
    others = { "personal/5/source" => "desk/ch/2", "personal/1/source" => "desk/bus/1", "personal/2/source" => "card/return/4", "personal/3/source" => nil,
               "channel/1/name" => "Viola" }
    expect(settings(show, others)).to eq(others)
    grouped = HearingHelp.show("bus/1/mode" => "subgroup")
    expect(settings(grouped, "personal/1/source" => "desk/bus/1")["personal/1/tap"]).to eq("pre-fader")
  end

  it "holds for a range of them" do
    edit = Loomshuttle::Steps::Propose.for(show, "outputs", "first" => 1, "count" => 4, "source" => "desk/ch/1", "kind" => "personal").edit
    expect(edit.apply(show).first.personal_lanes.values.first(6).map(&:tap)).to eq((["pre-fader"] * 4) + (["post-fader"] * 2))
  end
end
