# frozen_string_literal: true

# Checks of the rig, of capture on rigs with links, and of outputs: silent on a clean show, speak on the fault, and the
# fix mends just that.
RSpec.describe Loomshuttle::Checks do
  let(:clean) { straight(32, from: chained) }

  def only(show, check, **facts) = findings(show, **facts).select { |finding| finding.check == check }
  def mended(show, finding) = finding.fix.apply(show).first

  it "finds nothing in a straight patch over two chained boxes" do
    expect(findings(clean)).to eq([])
  end

  {
    "clock-leader" => [{ "rig/desk_clock" => "follows" }, /No device leads the clock/, "blocks"],
    "chain-overlap" => [{ "box/b/input_offset" => 8, "box/b/output_offset" => 4 },
                        /Box A and Box B overlap on link A: inputs on lanes 9 to 16 and outputs on lanes 5 to 8/, "blocks"],
    "box-off-link" => [{ "box/c/profile" => "bramble-32" }, /Box C \(Bramble 32\) is not connected to a link/, "blocks"],
    "missing-socket" => [{ "channel/40/name" => "Late guest", "channel/40/stage" => "desk/in/16" },
                         /Late guest \(channel 40\) is patched to In 16, but the Alder 40 has only 12 In sockets/, "blocks"],
    "link-over-capacity" => [{ "box/b/input_offset" => 40 }, /Link A carries 48 lanes each way at 48 kHz, but its boxes have inputs up to lane 56/, "blocks"],
    "preamp-on-card-fed" => [{ "channel/33/stage" => "card/return/33", "channel/33/name" => "Sea sounds", "send/33/source" => "desk/ch/33" },
                             /Sea sounds has card return 33 as stage source, but is tapped at the preamp/, "blocks"],
    "stereo-lanes" => [{ "track/2/inputs" => [], "track/2/outputs" => [], "track/3/inputs" => [], "track/3/outputs" => [], "track/2/armed" => false,
                         "track/3/armed" => false, "track/40/stereo" => true, "track/40/name" => "Pair", "track/40/inputs" => [2, 3] },
                       /Pair is stereo, but on card sends 2 and 3/, "look"],
    "track-names" => [{ "track/3/name" => "source 4" }, /Tracks 3 and 4 are both called source 4/, "look"],
    "slow-monitoring" => [{ "setup/monitoring" => "computer" }, /has 42.7 ms latency/, "look"],
    "return-loop" => [{ "send/3/tap" => "channel-in", **(1..8).to_h { |n| ["channel/#{n}/position", "take"] } },
                      /Loop: Source 3 plays to card return 3, which feeds channel 3 and card send 3 back/, "blocks"],
    "own-mix-on-tracks" => [{ "setup/own_mix" => [1, 2] }, /recorder mix leaves on card returns 1 and 2, which carry Source 1 and Source 2\./, "blocks"],
    "bus-without-socket" => [{ "bus/3/name" => "Drum fill" }, /Bus 3 \(Drum fill\) is not connected to an output socket/, "look"],
    "main-sockets" => [{ "output/15/source" => "desk/main/l", "output/15/expected" => "box-b/out/7", "outlet/a-2/first" => 1, "outlet/lineout-1/first" => 13 },
                       /Main L should be on Box B out 7, but is on Line out 3/, "blocks"]
  }.each do |check, (fault, sentence, severity)|
    it "finds #{check}, and mends it" do
      faulty = set(clean, fault)
      finding = only(faulty, check).first
      expect(finding).to have_attributes(severity: severity, sentence: sentence)
      expect(only(mended(faulty, finding), check)).to eq([])
    end
  end

  it "finds two leaders of the clock, and lets the desk lead alone" do
    faulty = set(clean, "rig/recorder_clock" => "leads", "box/a/clock" => "leads")
    finding = only(faulty, "clock-leader").first
    expect(finding.sentence).to eq("The desk, the recorder and Box A lead the clock; only one may.")
    expect(only(mended(faulty, finding), "clock-leader")).to eq([])
  end

  it "finds a device that cannot do the rig's rate" do
    faulty = set(set(blank("hazel-56"), "rig/rate" => 96_000), "rig/interface" => "fern-12-twin")
    finding = only(faulty, "rate-differs").first
    expect(finding.sentence).to eq("Fern 12 twin cannot run at 96 kHz, the rate of this rig.")
    expect(mended(faulty, finding).rate).to eq(48_000)
  end

  it "finds a link over its capacity at double rate, and what that cuts off" do
    fast = set(straight(32, from: chained("hazel-56")), "rig/rate" => 96_000)
    expect(only(fast, "link-over-capacity").first.sentence).to include("carries 24 lanes each way at 96 kHz", "inputs up to lane 32")
    expect(only(fast, "missing-socket").size).to eq(8)
    expect(only(mended(fast, only(fast, "link-over-capacity").first), "link-over-capacity")).to eq([])
  end

  it "says that an output is not connected at all where somebody expects it on a socket" do
    moved = set(clean, "output/15/source" => "desk/main/l", "output/15/expected" => "box-b/out/7", "outlet/a-2/first" => 1)
    expect(only(moved, "main-sockets").map(&:sentence)).to eq(["Main L should be on Box B out 7, but is not connected."])
  end

  it "finds a disk that is too short for the show, once the free space is known" do
    facts = { free_bytes: 10 << 30 }
    finding = only(clean, "disk-time", **facts).first
    # 32 lanes at 48 kHz and 24 bit: 4,608,000 bytes a second; 10 GiB less the reserve of 256 MiB last 37 min.
    expect(finding.sentence).to include("holds 37 min with 32 lanes armed; the show lasts 2 h 0 min")
    expect(only(clean, "disk-time", free_bytes: 100 << 30)).to eq([])
    expect(only(clean, "disk-time")).to eq([])
  end

  it "takes a declared group of tracks on one return for what it is" do
    shared = set(straight(4), "track/5/outputs" => [4], "track/5/name" => "Squeezebox")
    expect(only(shared, "shared-lane").first.sentence).to include("Source 4 and Squeezebox share card return 4")
    declared = set(shared, "track/4/shares" => "keys", "track/5/shares" => "keys")
    expect(only(declared, "shared-lane")).to eq([])
  end

  it "offers to declare a group where no return is free" do
    full = set(blank("rowan-10"), "track/1/outputs" => [1], "track/2/outputs" => [2], "track/3/outputs" => [2])
    finding = only(full, "shared-lane").first
    expect(finding.fix.label).to eq("Allow the shared return")
    expect(only(mended(full, finding), "shared-lane")).to eq([])
  end

  it "leaves out what somebody has accepted, but still knows it" do
    faulty = set(clean, "bus/3/name" => "Drum fill", "setup/accepted" => { "bus-without-socket/3" => "headphones at the desk" })
    context = described_class::Context.of(faulty)
    expect(described_class.open(context)).to eq([])
    expect(described_class.run(context).map(&:id)).to eq(["bus-without-socket/3"])
  end

  it "offers only fixes that can be applied on a desk of blocks, over random harm" do
    random = Random.new(21)
    40.times do
      show = 8.times.reduce(clean) do |now, _|
        set(now, Loomshuttle::Steps::Completed.settings(now, random_choice(now, random)))
      rescue Loomshuttle::Invalid
        now # more than the desk can do
      end
      findings(show).each { |finding| expect { mended(show, finding) }.not_to raise_error if finding.fix }
    end
  end
end
