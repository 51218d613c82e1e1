# frozen_string_literal: true

# What a listener hears, as ways of card sends.
RSpec.describe Loomshuttle::Hearing::Carried do
  let(:mix) { { "channel/1/fader" => -6, "channel/1/send/1" => -9, "output/1/trim" => -3 } }

  def ways(changed, listener)
    by, list = described_class.of(HearingHelp.survey(HearingHelp.show(changed), mix), listener)
    [by, list.reject { |way| way.amplitude.zero? }.map { |way| [way.lane, way.side, way.late, (20 * Math.log10(way.amplitude.abs)).round(2), way.amplitude.negative?] }]
  end

  it "takes sends that carry just what the outputs do, with what the outputs do to it" do
    sends = { "send/20/source" => "desk/bus/1", "send/20/tap" => "post-fader" }
    expect(ways(sends, 2)).to eq(["outputs", [[20, 0, 0, -3.0, false], [20, 1, 0, -3.0, false]]])
    expect(ways(sends.merge("output/1/delay" => 96, "output/1/polarity" => true), 2)).to eq(["outputs", [[20, 0, 96, -3.0, true], [20, 1, 96, -3.0, true]]])
    main = { "send/21/source" => "desk/main/l", "send/21/tap" => "post-fader", "send/22/source" => "desk/main/r", "send/22/tap" => "post-fader" }
    expect(ways(main, 1)).to eq(["outputs", [[21, 0, 0, 0.0, false], [22, 1, 0, 0.0, false]]])
  end

  it "computes it from the channels where no send carries that" do
    dry = { "send/4/source" => "desk/ch/1", "send/5/source" => "desk/ch/2", "send/6/source" => "desk/ch/1", "send/6/tap" => "post-fader" }
    expect(ways(dry, 2)).to eq(["channels", [[4, 0, 0, -12.0, false], [4, 1, 0, -12.0, false]]])
    expect(ways(dry.merge("send/20/source" => "desk/bus/1", "send/20/tap" => "pre-fader"), 2).first).to eq("channels")
    expect(ways(dry, 1).last.map(&:first).uniq).to eq([4])
  end

  it "says when there is nobody" do
    expect { described_class.of(HearingHelp.survey(HearingHelp.show, mix), 9) }.to raise_error(Loomshuttle::Invalid, /no listener 9/)
  end
end
