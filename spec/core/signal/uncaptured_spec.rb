# frozen_string_literal: true

RSpec.describe Loomshuttle::Signal::Uncaptured do
  def lefts(show) = described_class.of(show).map { |left| [left.kind, left.title, left.why] }
  def finding(show, kind) = findings(show).find { |one| one.id == "not-captured/#{kind}" }
  def mended(show, kind) = finding(show, kind).fix.apply(show).first

  let(:named) { { "channel/1/name" => "Tuba", "channel/1/stage" => "desk/in/1" } }

  it "has nothing to say of a straight patch, nor of backing tracks" do
    expect(lefts(straight)).to eq([])
    expect(lefts(set(blank, "channel/1/name" => "Sea sounds", "channel/1/stage" => "card/return/9"))).to eq([])
  end

  it "tells a source that no send carries, and sends it to a track" do
    show = set(blank, named)
    expect(lefts(show)).to eq([["no-send", "Tuba", "no card send carries it"]])
    expect(finding(show, "no-send")).to have_attributes(severity: "look", sentence: "Tuba will not be captured: no card send carries it.")
    expect(lefts(mended(show, "no-send"))).to eq([])
    expect(mended(show, "no-send").tracks[1]).to have_attributes(inputs: [1], armed: true)
  end

  it "tells what a card of two lanes leaves out, and offers a mode with more" do
    show = set(blank("alder-40"), "setup/card_mode" => "2 lanes")
    show = set(show, (1..8).flat_map { |n| [["channel/#{n}/name", "Source #{n}"], ["channel/#{n}/stage", "desk/in/#{n}"]] }.to_h)
    patched = Loomshuttle::Steps::AutoPatch.edit(show).apply(show).first
    expect(lefts(patched)).to eq((3..8).map { |n| ["no-send", "Source #{n}", "no card send carries it, and all 2 lanes of the card are in use"] })
    expect(finding(patched, "no-send").sentence)
      .to eq("6 sources will not be captured, since they reach no card send (all 2 lanes of the card are in use): Source 3, Source 4, Source 5, Source 6 and 2 more.")
    wide = mended(patched, "no-send")
    expect(wide.card_lanes).to be >= 8
    expect(lefts(mended(wide, "no-send"))).to eq([])
  end

  it "tells a send without a track, a track that is not armed, and a lane beyond the card's mode" do
    show = set(straight(4), "track/2/inputs" => [], "track/2/outputs" => [], "track/2/armed" => false, "track/2/name" => "", "track/3/armed" => false)
    expect(lefts(show)).to eq([["no-track", "Source 2", "no track takes card send 2"], ["not-armed", "Source 3", "track 3 is not armed"]])
    expect(lefts(mended(mended(show, "no-track"), "not-armed"))).to eq([])
    narrow = set(straight(4), "setup/card_mode" => "2 lanes")
    expect(lefts(narrow).map(&:first)).to eq(%w[beyond-card beyond-card])
    expect(Loomshuttle::Steps::CaptureAll.edit(narrow, described_class.of(narrow)).settings).to eq("setup/card_mode" => straight.setup.card_mode)
  end

  it "offers nothing where no lane lacks and there is no name to go by" do
    show = set(straight(2), "channel/9/stage" => "desk/in/9", "send/9/source" => "desk/ch/9")
    expect(lefts(show)).to eq([["no-track", "Channel 9", "no track takes card send 9"]])
    expect(finding(show, "no-track").fix).to be_nil
  end

  it "counts a second treatment of a captured socket as captured" do
    show = set(straight(4), "channel/9/name" => "Ears", "channel/9/stage" => straight.channels[1].stage.name)
    expect(lefts(show)).to eq([])
    expect(lefts(set(show, "send/1/tap" => "post-eq")).map { |one| one[1] }).to eq(["Ears"])
  end
end
