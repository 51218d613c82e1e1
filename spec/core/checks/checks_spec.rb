# frozen_string_literal: true

# Each check: silent on a clean show, speaks on the fault, and its fix mends just that.
RSpec.describe Loomshuttle::Checks do
  def only(show, check) = findings(show).select { |finding| finding.check == check }

  def mended(show, finding) = finding.fix.apply(show).first

  it "finds nothing in a straight patch" do
    expect(findings(straight)).to eq([])
  end

  {
    "channel-without-socket" => [{ "channel/5/stage" => nil }, /Source 5 \(channel 5\) has no socket, so armed track 5 would write silence/, "blocks"],
    "armed-without-source" => [{ "send/5/source" => nil }, /Source 5 is armed, but nothing reaches track 5/, "blocks"],
    "not-at-preamp" => [{ "send/5/tap" => "post-eq" }, /Source 5 is tapped at post-EQ/, "look"],
    "stage-preamp-on-take" => [{ "channel/5/position" => "take" }, /Source 5 is on take, but armed at the preamp/, "look"],
    "left-on-take" => [{ "channel/5/position" => "take", "channel/6/position" => "take" }, /2 channels are on take/, "look"],
    "card-mode" => [{ "setup/card_mode" => "2 lanes" }, /carries 2 lanes each way, but the tracks use 14 more, up to lane 16/, "blocks"]
  }.each do |check, (fault, sentence, severity)|
    it "finds #{check}, shows the path, and mends it" do
      faulty = set(straight, fault)
      finding = only(faulty, check).first
      expect(finding).to have_attributes(severity: severity, sentence: sentence)
      expect(finding.path).not_to be_empty
      expect(only(mended(faulty, finding), check)).to eq([])
    end
  end

  it "finds two tracks on one input lane, and moves the later one" do
    faulty = set(straight(4), "track/3/inputs" => [2])
    finding = only(faulty, "shared-lane").first
    expect(finding).to have_attributes(severity: "blocks", sentence: /Source 2 and Source 3 share card send 2/)
    expect(mended(faulty, finding).tracks[3].inputs).to eq([3])
  end

  it "finds two tracks on one output lane" do
    faulty = set(straight(4), "track/3/outputs" => [2])
    finding = only(faulty, "shared-lane").first
    expect(finding.sentence).to include("share card return 2, so they are summed")
    expect(findings(mended(faulty, finding))).to eq([])
  end

  it "finds a return that comes back on another channel, both of a crossed pair, and mends them" do
    faulty = set(straight, "track/14/outputs" => [15], "track/15/outputs" => [14])
    found = only(faulty, "foreign-return")
    expect(found.map(&:sentence)).to match([/Source 14 is captured from channel 14, but its take returns on channel 15/, /Source 15 .* channel 14/])
    expect(findings(mended(faulty, found.first))).to eq([])
  end

  it "says nothing about the preamp where a channel has only the card to hear" do
    show = set(straight(2), "channel/2/stage" => nil, "channel/2/name" => "", "send/2/tap" => "channel-in")
    expect(only(show, "not-at-preamp")).to eq([])
  end

  it "does not call the desk's own mix nothing" do
    show = set(straight(1), "send/3/source" => "desk/main/l", "send/3/tap" => "post-fader", "track/3/inputs" => [3], "track/3/armed" => true)
    expect(only(show, "armed-without-source")).to eq([])
  end

  it "points out the one empty side of a stereo track" do
    show = set(straight(2), "track/2/stereo" => true, "track/2/inputs" => [2, 3], "track/2/outputs" => [])
    expect(only(show, "armed-without-source").first.sentence).to include("one side of track 2")
  end

  it "brings a stereo track home on both sides in order" do
    emptied = { "track/4/inputs" => [], "track/4/outputs" => [], "track/4/armed" => false, "channel/15/take" => "card/return/15", "channel/16/take" => "card/return/16" }
    show = set(straight(4), "track/3/stereo" => true, "track/3/inputs" => [3, 4], "track/3/outputs" => [15, 16], **emptied)
    expect(only(show, "foreign-return").map { |finding| mended(show, finding).tracks[3].outputs }).to eq([[3, 4]] * 2)
  end

  it "puts what blocks first" do
    faulty = set(straight, "send/3/tap" => "post-eq", "send/5/source" => nil)
    expect(findings(faulty).map(&:severity)).to eq(%w[blocks look look])
  end

  it "offers only fixes that can be applied, over random patches" do
    random = Random.new(3)
    60.times do
      show = 12.times.reduce(straight) { |now, _| set(now, random_choice(now, random)) }
      findings(show).each { |finding| expect { mended(show, finding) }.not_to raise_error if finding.fix }
    end
  end
end
