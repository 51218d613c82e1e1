# frozen_string_literal: true

RSpec.describe Loomshuttle::Steps::ReturnFollowers do
  def offer(show, settings) = described_class.of(show, set(show, settings))

  it "offers whoever heard the old returns to move along in the same edit, on take and on stage" do
    show = straight(4)
    lanes = show.channels[2].take
    made = offer(show, "track/2/outputs" => [12])
    expect(made.settings).to eq("channel/2/take" => "card/return/12")
    expect(made.words).to eq("Source 2 hears what is left behind; it can move along to card return 12.")
    moved = set(show, { "track/2/outputs" => [12] }.merge(made.settings))
    expect([lanes.number, moved.channels[2].take.number, findings(moved).map(&:check) & %w[foreign-return return-unfed]]).to eq([2, 12, []])
    streams = set(show, "playback/returns" => [9], "channel/8/stage" => "card/return/10")
    expect(offer(streams, "playback/returns" => [17]).settings).to eq("channel/8/stage" => "card/return/18")
  end

  it "offers nothing where something still plays there, where the edit moves them itself, or where a pair would be torn apart" do
    show = straight(4)
    expect(offer(show, "track/2/outputs" => [12], "track/3/outputs" => [2])&.settings).to eq("channel/3/take" => "card/return/2")
    expect(offer(show, "track/2/outputs" => [12], "channel/2/take" => "card/return/12")).to be_nil
    expect(offer(show, "track/2/outputs" => [])).to be_nil
    expect(offer(show, "track/1/name" => "Other")).to be_nil
  end
end

RSpec.describe Loomshuttle::Checks::PairApart do
  let(:pair) { set(straight(4), "channel/1/paired" => true) }

  def found(show) = findings(show).select { |one| one.check == "pair-apart" }

  it "finds what only one side of a pair has, and mends it for both" do
    expect(found(pair)).to eq([])
    { "channel/2/main" => false, "channel/1/polarity" => true, "channel/1/take" => nil, "channel/2/stage" => nil }.each do |path, value|
      show = set(pair, path => value)
      one, = found(show)
      expect([path, found(show).size, one.severity]).to eq([path, 1, "look"])
      expect(found(one.fix.apply(show).first)).to eq([])
    end
    expect(found(set(pair,
                     "channel/2/main" => false)).first).to have_attributes(id: "pair-apart/1/main",
                                                                           sentence: "Source 1 is on main and Source 2 is not, but they are a stereo pair.")
    expect(found(set(pair, "channel/1/paired" => false, "channel/2/main" => false))).to eq([])
  end
end

RSpec.describe Loomshuttle::Checks::ReturnUnfed do
  def found(show) = findings(show).select { |one| one.check == "return-unfed" }.map(&:sentence)

  it "finds a stereo return that nothing feeds, and one that is fed on one side only" do
    pair = set(straight(4), "channel/1/paired" => true)
    expect(found(pair)).to eq([])
    expect(found(set(pair, "track/2/outputs" => []))).to eq(["Source 1 hears card return 2 on take, and nothing plays there."])
    expect(found(set(pair, "track/1/outputs" => [], "track/2/outputs" => []))).to eq(["Source 1 hears card returns 1 and 2 on take, and nothing plays there."])
    expect(found(set(straight(4), "track/2/outputs" => []))).to eq([])
    by_card = set(pair, "playback/returns" => [9], "channel/5/paired" => true, "channel/5/stage" => "card/return/9", "channel/6/stage" => "card/return/10")
    expect([found(by_card), found(set(by_card, "playback/returns" => [17]))]).to eq([[], ["Channel 5 hears card returns 9 and 10 on stage, and nothing plays there."]])
    expect(found(set(blank, "channel/1/paired" => true, "channel/1/take" => "card/return/1", "channel/2/take" => "card/return/2"))).to eq([])
  end
end
