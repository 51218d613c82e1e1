# frozen_string_literal: true

RSpec.describe Loomshuttle::Steps::MoveLanes do
  def moved(show, way, **more) = described_class.edit(show, way, **more).apply(show).first

  let(:show) do
    set(CoreHelp.blank("sedge-24"), "listener/order" => [1, 2], "listener/2/name" => "Ada",
                                    "channel/1/name" => "Fiddle", "channel/2/name" => "Click", "track/7/stereo" => true, "track/7/outputs" => [25, 26], "track/7/name" => "Strings",
                                    "track/8/outputs" => [31], "channel/3/name" => "Strings L", "channel/3/stage" => "card/return/25",
                                    "channel/4/name" => "Strings R", "channel/4/stage" => "card/return/26", "channel/1/take" => "card/return/31",
                                    "output/5/source" => "card/return/26",
                                    "personal/2/source" => "card/return/25", "setup/own_mix" => [29, 30], "wish/order" => [1], "wish/1/sources" => ["return/26", "channel/1"],
                                    "wish/1/listeners" => [2],
                                    "send/1/source" => "desk/ch/1", "send/1/tap" => "pre-eq", "send/2/source" => "desk/ch/2", "track/1/inputs" => [1], "track/2/inputs" => [2],
                                    "send/9/source" => "desk/ch/3", "track/9/inputs" => [9])
  end

  it "moves a pair of returns with tracks, channels, outputs, personal mixes and requirements" do
    after = moved(show, "return", from: 25, to: 27)
    expect(after.tracks[7].outputs).to eq([27, 28])
    expect([3, 4].map { |number| after.channels[number].stage.name }).to eq(%w[card/return/27 card/return/28])
    expect([after.outputs[5].source.name, after.personal_lanes[2].source.name]).to eq(%w[card/return/28 card/return/27])
    expect(after.wishes[1].sources).to contain_exactly("return/28", "channel/1")
    expect(findings(after).map(&:check)).to match_array(findings(show).map(&:check))
  end

  it "exchanges what is in use at both places, and back" do
    after = moved(show, "return", from: 25, to: 31)
    expect([after.tracks[7].outputs, after.tracks[8].outputs, after.channels[1].take.name]).to eq([[31, 32], [25], "card/return/25"])
    expect(moved(after, "return", from: 31, to: 25).set_settings).to eq(show.set_settings)
    mix = moved(show, "return", from: 25, to: 29)
    expect([mix.setup.own_mix, mix.tracks[7].outputs]).to eq([[25, 26], [29, 30]])
  end

  it "moves sends with their taps and tracks" do
    after = moved(show, "send", from: 1, to: 9)
    expect([9, 10, 1].map { |lane| after.sends[lane].then { |send| [send.source&.name, send.tap] } }).to eq([["desk/ch/1", "pre-eq"], ["desk/ch/2", nil], ["desk/ch/3", nil]])
    expect([1, 2, 9].map { |number| after.tracks[number].inputs }).to eq([[9], [10], [1]])
    expect(described_class.edit(show, "send", from: 9, to: 11, count: 1).label).to eq("Move card send 9 to card send 11")
  end

  it "exchanges sends of which one has a tap that the other's source does not offer" do
    both = set(show, "send/5/source" => "desk/main/l", "send/5/tap" => "post-fader", "send/6/source" => "desk/main/r", "send/6/tap" => "pre-fader")
    after = moved(both, "send", from: 1, to: 5)
    expect([1, 5].map { |lane| after.sends[lane].then { |send| [send.source.name, send.tap] } }).to eq([["desk/main/l", "post-fader"], ["desk/ch/1", "pre-eq"]])
  end

  {
    [{ from: 30, to: 1, count: 4 }, "return"] => /has card returns 1 to 32, and 33 would be needed/,
    [{ from: 25, to: 26 }, "return"] => /Card returns 25 to 26 and card returns 26 to 27 overlap/,
    [{ from: 11, to: 13 }, "return"] => /Nothing uses card returns 11 to 12/
  }.each do |(where, way), message|
    it "refuses what cannot be: #{message.source}" do
      expect { moved(show, way, **where) }.to raise_error(Loomshuttle::Invalid, message)
    end
  end

  it "leaves returns alone that belong to playback" do
    playing = set(show, "playback/returns" => [9])
    expect { moved(playing, "return", from: 25, to: 11) }.to raise_error(Loomshuttle::Invalid, /to playback; change its card returns in Rig/)
  end
end
