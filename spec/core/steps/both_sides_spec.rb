# frozen_string_literal: true

RSpec.describe Loomshuttle::Steps::BothSides do
  let(:show) { set(straight(8, from: chained("hazel-56")), "channel/3/paired" => true) }

  def more(settings, from: show) = described_class.settings(from, settings).reject { |path, _| settings.key?(path) }

  it "sets what is the same on both sides of a pair from either of them" do
    { "colour" => "woad", "main" => false, "polarity" => true, "position" => "take" }.each do |field, value|
      expect(more({ "channel/3/#{field}" => value })).to eq("channel/4/#{field}" => value)
      expect(more({ "channel/4/#{field}" => value })).to eq("channel/3/#{field}" => value)
    end
  end

  it "leaves names, gains and single channels alone" do
    expect(%w[channel/3/name channel/3/gain channel/5/main channel/2/main rig/rate].map { |path| more({ path => 1 }) }).to all(eq({}))
  end

  it "does not where an edit names both sides, or somebody has accepted that they differ" do
    expect(more({ "channel/3/main" => false, "channel/4/main" => true })).to eq({})
    apart = set(show, "setup/accepted" => { "pair-apart/3/polarity" => "the second microphone is below the drum" })
    expect([more({ "channel/4/polarity" => true }, from: apart), more({ "channel/4/main" => false }, from: apart)]).to eq([{}, { "channel/3/main" => false }])
  end

  it "moves the right side's source with the left one's to the socket or return beside, while that is free" do
    expect(more({ "channel/3/stage" => "link/a/up/11" })).to eq("channel/4/stage" => "link/a/up/12")
    expect(more({ "channel/3/take" => "card/return/21" })).to eq("channel/4/take" => "card/return/22")
    expect(more({ "channel/3/stage" => nil })).to eq("channel/4/stage" => nil)
    expect(more({ "channel/3/stage" => "link/a/up/6" })).to eq({}) # 7 has somebody
    expect(more({ "channel/4/stage" => "link/a/up/11" })).to eq({})
    expect(more({ "channel/3/stage" => "link/a/up/11" }, from: set(show, "channel/4/stage" => "link/a/up/14"))).to eq({})
  end

  it "sends the right side to the lane after the left one's, and taps both alike" do
    expect(more({ "send/3/tap" => "channel-in" })).to eq("send/4/tap" => "channel-in")
    expect(more({ "send/4/tap" => "channel-in" })).to eq("send/3/tap" => "channel-in")
    expect(more({ "send/11/source" => "desk/ch/3" })).to eq("send/12/source" => "desk/ch/4")
    expect([more({ "send/12/source" => "desk/ch/3" }), more({ "send/11/source" => "desk/ch/5" }), more({ "send/5/tap" => "channel-in" })]).to all(eq({}))
  end

  it "keeps pairs together, whatever one setting of a side is changed to" do
    random = Random.new(3)
    60.times do
      field = described_class::ALIKE.sample(random: random)
      values = { "colour" => %w[woad madder], "position" => %w[stage take], "groups" => [[], [1]], "send_taps" => [{}, { "2" => "pre-fader" }] }
      value = values.fetch(field, [true, false]).sample(random: random)
      settings = described_class.settings(show, "channel/#{[3, 4].sample(random: random)}/#{field}" => value)
      after = begin
        set(show, settings)
      rescue Loomshuttle::Invalid
        next # this desk has no such tap or subgroup
      end
      expect(findings(after).map(&:id).grep(/pair-apart/)).to eq([])
    end
  end
end

RSpec.describe Loomshuttle::Checks::PairApart do
  let(:show) { set(straight(8, from: chained("hazel-56")), "channel/3/paired" => true) }

  def found(settings) = findings(set(show, settings)).select { |finding| finding.check == "pair-apart" }

  it "finds what one side alone has, and mends it for both" do
    { "main" => false, "polarity" => true, "position" => "take", "colour" => "woad" }.each do |field, value|
      finding, = found("channel/4/#{field}" => value)
      expect(finding.id).to eq("pair-apart/3/#{field}")
      mended = finding.fix.apply(set(show, "channel/4/#{field}" => value)).first
      expect(mended.channels[3][field.to_sym]).to eq(mended.channels[4][field.to_sym])
    end
    expect(found("channel/4/position" => "take").first.sentence).to eq("Source 3 is on stage and Source 4 is not, but they are a stereo pair.")
  end

  it "offers the pair's next socket where that is free at the same box" do
    finding, = found("channel/4/stage" => nil)
    expect(finding.fix).to have_attributes(label: "Set the stage source of Source 4 to Box A in 4", settings: { "channel/4/stage" => "link/a/up/4" })
    expect(found("channel/4/stage" => nil, "channel/12/stage" => "link/a/up/4").first.fix).to be_nil
    expect(found("channel/3/stage" => "link/a/up/16", "channel/4/stage" => nil).first.fix).to be_nil
  end
end
