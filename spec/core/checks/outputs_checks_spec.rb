# frozen_string_literal: true

# Checks of what leaves the desk: silent where all is well, with a path, and mended by their fix.
RSpec.describe Loomshuttle::Checks do
  let(:group) { { "bus/3/mode" => "subgroup", "bus/3/name" => "Rhythm", "channel/1/groups" => [3] } }

  def only(show, check) = findings(show).select { |finding| finding.check == check }
  def show(changed = {}) = HearingHelp.show(changed)
  def heard(show, check, mixed) = described_class.heard(HearingHelp.survey(show, mixed)).select { |finding| finding.check == check }

  it "finds nothing where all is well" do
    expect(findings(show).map(&:check) & %w[group-nowhere twice-on-main monitor-post-fader personal-lanes return-twice delay-geometry hears-nothing]).to eq([])
  end

  {
    "twice-on-main" => [{ "bus/3/main" => true }, "Fiddle (channel 1) reaches main both directly and through Bus 3 Rhythm: at the same time, so up to 6 dB louder, without a comb.",
                        "look"],
    "group-nowhere" => [{ "channel/1/main" => false }, "Subgroup Bus 3 Rhythm has Fiddle in it, but no destination.", "blocks"],
    "monitor-post-fader" => [{ "bus/1/tap" => "post-fader" }, "Ada hears 2 channels in Bus 1 Ear Ada tapped post-fader: faders change the monitor mix.", "look"],
    "return-twice" => [{ "output/15/source" => "card/return/5", "channel/3/stage" => "card/return/5", "channel/3/name" => "Strings" },
                       "Card return 5 is heard twice: straight from output 15, and by Strings on main.", "blocks"]
  }.each do |check, (fault, sentence, severity)|
    it "finds #{check}, shows where, and mends it" do
      faulty = show(sentence.include?("Rhythm") ? group.merge(fault) : fault)
      finding = only(faulty, check).first
      expect(finding).to have_attributes(severity: severity, sentence: sentence)
      expect(finding.path).not_to be_empty
      expect(only(finding.fix.apply(faulty).first, check)).to eq([])
    end
  end

  it "calls a subgroup that no destination less bad where its channels are on main themselves" do
    expect(only(show(group), "group-nowhere").first.severity).to eq("look")
  end

  it "finds a single send that is taken post-fader, and leaves the others as they are" do
    single = show("channel/1/send_taps" => { "1" => "post-fader", "2" => "pre-eq" })
    finding = only(single, "monitor-post-fader").first
    expect(finding.sentence).to start_with("Ada hears Fiddle in Bus 1")
    expect(finding.fix.apply(single).first.channels[1].send_taps).to eq("2" => "pre-eq")
  end

  it "finds personal mixes that follow the faders of front of house, and takes them before those; a bus mixed for the player may stay" do
    lanes = { "personal/1/source" => "desk/ch/1", "personal/2/source" => "desk/main/l", "personal/3/source" => "desk/bus/1", "personal/4/source" => "card/return/3" }
    finding = only(show(lanes), "personal-post-fader").first
    expect(finding.sentence).to eq("2 personal mixes are taken post-fader: faders of front of house change what the player hears.")
    mended = finding.fix.apply(show(lanes)).first
    expect(mended.personal_lanes.values.first(4).map(&:tap)).to eq(%w[pre-fader pre-fader post-fader post-fader])
    expect(only(mended, "personal-post-fader")).to eq([])
    one = only(show(lanes.slice("personal/1/source")), "personal-post-fader").first
    expect(one.sentence).to start_with("Channel 1 Fiddle in personal mix 1 is taken post-fader")
  end

  it "minds only what persons hear" do
    expect(only(show("bus/1/tap" => "post-fader", "listener/2/kind" => "broadcast"), "monitor-post-fader")).to eq([])
  end

  it "says who hears nothing, and why" do
    words = ->(changed) { only(show(changed), "hears-nothing").map(&:sentence) }
    expect(words.call("listener/2/hears" => [])).to eq(["Ada hears nothing: no output assigned."])
    expect(words.call("output/1/source" => nil)).to eq(["Ada hears nothing: output 1 has no source."])
    silent = show.profile.outlet_blocks.keys.to_h { |block| ["outlet/#{block}/first", nil] }
    expect(words.call(silent)).to include("Ada hears nothing: output 1 is not connected.")
    expect(heard(show, "hears-nothing", "channel/1/fader" => 0).map(&:sentence)).to eq(
      ["Ada hears nothing: all faders or sends feeding them are down.", "Drummer hears nothing: all faders or sends feeding them are down."]
    )
  end

  it "finds a click that an audience hears, by any way, and mends it" do
    open = { "channel/2/fader" => -3, "channel/1/send/1" => 0, "channel/2/send/2" => 0 }
    leak = show("bus/3/mode" => "subgroup", "bus/3/main" => true, "channel/2/groups" => [3])
    finding = heard(leak, "cue-at-audience", open).first
    expect(finding).to have_attributes(severity: "blocks", sentence: "Click can be heard by PA, at −3 dB.")
    expect(heard(finding.fix.apply(leak).first, "cue-at-audience", open)).to eq([])
    expect(heard(show, "cue-at-audience", open)).to eq([])
    # A wish that says so is what tells of it.
    wished = set(leak, HearingHelp.wish("never", "channel/2", 1))
    expect([heard(wished, "cue-at-audience", open), heard(wished, "broken-wish", open).size]).to eq([[], 1])
  end

  it "finds nothing by ear of a desk that nobody knows" do
    expect(described_class.heard(Loomshuttle::Hearing::Survey.of(show(HearingHelp.wish("reach", "channel/1", 2)), {}))).to eq([])
  end

  it "finds personal mixes that no system takes" do
    data = CoreHelp::CATALOG.fetch("desk", "alder-40").to_json_data.merge("id" => "alder-20-lanes", "personal_lanes" => 20)
    desk = Loomshuttle::Rig::Profile.from(data)
    wide = Loomshuttle::Settings::Show.blank(CoreHelp::CATALOG.with([desk]), { name: "Test" }, desk: desk.id)
    faulty = set(wide, "personal/16/source" => "desk/bus/1", "personal/18/source" => "desk/bus/1")
    finding = only(faulty, "personal-lanes").first
    expect(finding.sentence).to eq("1 personal mix over 16 is in use; a personal-mix system carries 16.")
    expect(only(finding.fix.apply(faulty).first, "personal-lanes")).to eq([])
  end
end
