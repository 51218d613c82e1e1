# frozen_string_literal: true

# What each setting accepts, and why not: the sentence names the setting in words, and `where` its path.
RSpec.describe Loomshuttle::Settings::Kinds do
  let(:show) { straight(4, from: chained) }

  def refused(settings, from = show)
    set(from, settings)
    nil
  rescue Loomshuttle::Invalid => e
    e
  end

  {
    "channel/1/name" => { "x" * 41 => "has 41 characters; the limit is 40", 5 => "must be text", "a\nb" => "has characters that cannot be shown" },
    "channel/1/short" => { "seventh" => "has 7 characters; the limit is 6" },
    "channel/1/colour" => { "pink" => /"pink" is not one of/ },
    "channel/1/position" => { "moon" => '"moon" is not one of stage, take' },
    "channel/1/stage" => { "desk/in/99" => %r{"desk/in/99" is not one of}, 4 => /4 is not one of/ },
    "channel/1/take" => { "desk/in/1" => /is not one of card.return.1 to card.return.40/ },
    "channel/1/gain" => { 99 => "the preamp goes from −6 to 60 dB, not 99", 10.25 => /has steps of 1 dB/, "12" => "a preamp is set by a number of dB" },
    "channel/1/phantom" => { "yes" => "must be true or false" },
    "channel/1/spot" => { "up" => '"up" is not one of left, centre, right' },
    "channel/2/paired" => { true => "a pair is an odd channel and the next one, both mono" },
    "send/1/source" => { "desk/in/1" => /is not one of/ },
    "send/1/tap" => { "air" => /"air" is not one of preamp/ },
    "track/1/inputs" => { [1, 2] => "needs one lane, or none", [41] => "the card has lanes 1 to 40, not 41", 1 => "needs one lane, or none" },
    "track/1/stereo" => { true => /must change with it/ },
    "setup/buffer" => { 1000 => "1000 is not one of 128, 256, 512, 1024, 2048, 4096" },
    "setup/own_mix" => { [1] => "needs two different lanes, or none", [3, 3] => "needs two different lanes, or none" },
    "setup/length_minutes" => { 0 => "a whole number from 1 to 1440 is needed, not 0", 90.5 => /not 90.5/ },
    "setup/accepted" => { { "left-on-take" => " " } => "each accepted finding needs a reason in words" },
    "setup/desk_follows" => { "never" => '"never" is not one of at once, when sent' },
    "rig/rate" => { 96_000 => "96000 is not one of 48000, 44100" },
    "rig/desk" => { "oak" => /no desk profile "oak"/ },
    "box/a/port" => { "z" => '"z" is not one of a, b' },
    "box/a/input_offset" => { 48 => "a whole number from 0 to 47 is needed, not 48" },
    "output/1/expected" => { "somewhere" => "an expected socket reads like box-b/out/7" },
    "outlet/a-2/first" => { 3 => "3 is not one of 1, 9" }
  }.each do |path, refusals|
    refusals.each do |value, reason|
      it "refuses #{path} #{value.inspect[0, 30]}" do
        refusal = refused(path => value)
        expect(refusal.where).to eq(path)
        expect(refusal.message).to match(reason.is_a?(Regexp) ? reason : /#{Regexp.escape(reason)}\.\z/)
        expect(refusal.message).not_to start_with(path)
      end
    end
  end

  it "names the setting as a person knows it" do
    expect(refused("channel/2/gain" => 99).message).to start_with("Channel 2 Source 2, preamp gain: ")
    expect(refused("box/b/port" => "z").message).to start_with("Box B, port: ")
    expect(refused("setup/buffer" => 1).message).to start_with("Show, recorder buffer: ")
  end

  it "keeps text without the space around it, and takes any script" do
    expect(set(show, "channel/1/name" => "  Bühne ♫ 弦 ").channels[1].name).to eq("Bühne ♫ 弦")
  end

  it "gives a stereo channel odd lanes only" do
    small = blank("rowan-16")
    expect(refused({ "channel/17/stage" => "desk/in/2" }, small).message).to include("stereo and needs an odd lane with its neighbour, not In 2")
    expect(set(small, "channel/17/stage" => "desk/in/3").channels[17].stage).to eq(point("desk/in/3"))
  end

  it "takes a mix only where the mix can be taken" do
    expect(refused("send/9/source" => "desk/main/l", "send/9/tap" => "preamp").message).to match(/taken at|is not one of/)
    expect(set(show, "send/9/source" => "desk/main/l", "send/9/tap" => "post-fader").sends[9].source).to eq(point("desk/main/l"))
  end

  it "names a setting that does not exist" do
    expect(refused("channel/99/name" => "x").message).to match(/no setting "channel.99.name": .*/)
    expect(refused("channel/1/weather" => "x").where).to eq("channel/1/weather")
  end
end
