# frozen_string_literal: true

# How a show mixes, as settings: what a desk can, what it refuses and why.
RSpec.describe Loomshuttle::Settings::MixKinds do
  let(:alder) { blank("alder-40") }

  def why(show, settings)
    set(show, settings)
    nil
  rescue Loomshuttle::Invalid => e
    e.message
  end

  it "are kept as they are set, and told in words" do
    settings = { "channel/3/main" => false, "channel/3/polarity" => true, "channel/3/groups" => [5, 2], "channel/3/send_taps" => { "4" => "post-fader" },
                 "bus/2/mode" => "subgroup", "bus/3/tap" => "post-eq", "bus/3/paired" => true, "bus/2/main" => true,
                 "output/4/source" => "desk/ch/7", "output/4/tap" => "post-eq", "output/4/delay" => 480, "output/4/polarity" => true,
                 "output/5/source" => "card/return/3", "personal/16/source" => "desk/bus/1", "personal/16/tap" => "pre-fader" }
    show = set(alder, settings)
    expect(settings.keys.to_h { |path| [path, show.get(path)] }).to eq(settings.merge("channel/3/groups" => [2, 5]))
    told = Loomshuttle::Settings::Telling.change(show, "output/4/delay", 0, 480)
    expect([told.what, told.field, told.from, told.to]).to eq(["Output 4", "delay", "0 samples", "480 samples"])
    expect(Loomshuttle::Settings::PresetParts.only(settings, %w[mix]).keys).to eq(settings.keys.grep(/\A(channel|bus)/))
  end

  {
    ["rowan-10", "bus/1/mode", "subgroup"] => "Bus 1, type: the Rowan 10 has no subgroups.",
    ["rowan-10", "channel/1/groups", [1]] => "Channel 1, subgroups: the Rowan 10 has no subgroups.",
    ["rowan-10", "bus/1/main", true] => "Bus 1, on main: the Rowan 10 has no buses on main.",
    ["rowan-10", "output/1/delay", 1] => "Output 1, delay: outputs of the Rowan 10 have no delay.",
    ["rowan-10", "output/1/polarity", true] => "Output 1, polarity inverted: the Rowan 10 has no polarity inversion on outputs.",
    ["rowan-16", "output/1/delay", 4801] => "Output 1, delay: an output is delayed by 4800 samples at most, not by 4801.",
    ["rowan-16", "bus/2/tap", "post-eq"] => "Bus 2, send tap: \"post-eq\" is not one of pre-eq, pre-fader, post-fader.",
    ["alder-40", "bus/2/paired", true] => "Bus 2, paired with next: a pair is an odd bus and the next one.",
    ["alder-40", "channel/1/send_taps", { "15" => "pre-eq" }] => "Channel 1, send taps: there is no bus 15 here.",
    ["alder-40", "channel/1/send_taps", { "1" => "preamp" }] => /"preamp" is not one of channel-in, pre-eq/,
    ["alder-40", "channel/1/groups", [1, 1]] => /a list of different buses is needed, 1 to 14/
  }.each do |(desk, path, value), sentence|
    it("are refused with a reason: #{value} for #{path} of #{desk}") { expect(why(blank(desk), path => value)).to match(sentence) }
  end

  it "let any desk go back to what nobody has set" do
    show = blank("rowan-10")
    expect(why(show, "bus/1/mode" => "mix", "channel/1/groups" => [], "bus/1/main" => false, "output/1/delay" => 0, "output/1/polarity" => false)).to be_nil
  end

  it "take behind the fader what a tap does not fit, and a card return past the mixer" do
    show = set(alder, "output/1/source" => "desk/bus/1", "output/1/tap" => "preamp", "output/2/source" => "desk/ch/1", "output/2/tap" => "preamp",
                      "output/3/source" => "card/return/9")
    expect((1..3).map { |n| show.point_of_output(show.outputs[n]).name }).to eq(%w[desk/bus/1@post-fader desk/ch/1@preamp card/return/9])
  end

  it "leave out what older shows had and is no more" do
    old = { "rig/desk" => "alder-40", "outlet/personal-1/first" => 9, "channel/1/name" => "Tuba" }
    expect(Loomshuttle::Settings::Show.load(CoreHelp::CATALOG, {}, old).channels[1].name).to eq("Tuba")
    data = { "about" => { "name" => "Old" }, "settings" => old }
    expect(Loomshuttle::Formats::ShowFile.read(data, CoreHelp::CATALOG).show.channels[1].name).to eq("Tuba")
  end
end
