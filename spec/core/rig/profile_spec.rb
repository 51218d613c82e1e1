# frozen_string_literal: true

RSpec.describe Loomshuttle::Rig::Profile do
  let(:profile) { CoreHelp::PROFILE }

  it "tells what the Rowan 16 has" do
    expect(profile.input_sockets.size).to eq(18)
    expect(profile.output_sockets).to eq((1..10).map { |n| "desk/out/#{n}" })
    expect(profile.strips.map(&:width)).to eq(([1] * 16) + [2])
    expect(profile.mix_points).to eq((1..8).map { |n| "desk/bus/#{n}" } + %w[desk/main/l desk/main/r])
    expect([profile.sends, profile.returns]).to eq([20, 20])
    expect(profile.card_modes).to eq("20 lanes" => 20, "2 lanes" => 2)
  end

  it "names the lanes of a stereo channel apart" do
    expect(profile.channel_points(7)).to eq(["desk/ch/7"])
    expect(profile.channel_points(17)).to eq(["desk/ch/17/l", "desk/ch/17/r"])
  end

  it "offers a mix only the taps that a mix has" do
    expect(profile.taps_of("desk/ch/1")).to eq(%w[preamp channel-in pre-eq post-eq pre-fader post-fader])
    expect(profile.taps_of("desk/main/l")).to eq(%w[pre-fader post-fader])
  end

  it "says what is missing in a broken profile" do
    expect { described_class.new({ "id" => "x", "name" => "X" }) }.to raise_error(Loomshuttle::Invalid, /lacks "rates"/)
  end

  it "says when a file is not JSON" do
    Dir.mktmpdir do |dir|
      File.write(File.join(dir, "bad.json"), "{")
      expect { described_class.read(File.join(dir, "bad.json")) }.to raise_error(Loomshuttle::Invalid, /bad.json is not JSON/)
    end
  end
end
