# frozen_string_literal: true

# What a desk that patches in blocks cannot do at all, and what brings a show back into what it can.
RSpec.describe Loomshuttle::Settings::Limits do
  let(:show) { straight(32, from: chained) }
  let(:scattered) { (1..25).to_h { |n| ["channel/#{n}/stage", "link/a/up/#{n.odd? ? n + 1 : n - 1}"] } }

  it "takes as many single sources as there are free slots, and no more" do
    few = scattered.first(24).to_h
    expect(Loomshuttle::Settings::Blocks.single(set(show, few)).size).to eq(24)
    expect { set(show, few.merge("channel/30/stage" => "desk/in/3")) }.to raise_error(Loomshuttle::Invalid, /Alder 40 has 24 free slots/)
  end

  it "has none of them on the way back: returns go by block" do
    expect { set(show, "channel/3/take" => "card/return/9") }.to raise_error(Loomshuttle::Invalid, /take sources run in blocks of 8, and channel 3 would leave its block/)
    expect(set(show, Loomshuttle::Steps::Completed.settings(show, { "channel/3/take" => "card/return/11" })).channels[1].take).to eq(point("card/return/9"))
  end

  it "flips whole blocks" do
    expect { set(show, "channel/3/position" => "take") }.to raise_error(Loomshuttle::Invalid, /flip/i)
    expect(set(show, (1..8).to_h { |n| ["channel/#{n}/position", "take"] }).channels[3].position).to eq("take")
  end

  it "mends what another desk brought along, and leaves what fits" do
    single = set(straight(8, from: blank("hazel-56")), "channel/3/take" => "card/return/9", "channel/5/position" => "take")
    moved = set(single, Loomshuttle::Settings::Refit.settings(single, "alder-40"))
    expect(moved.channels[3].take).to eq(point("card/return/3"))
    expect(moved.channels.values.first(8).map(&:position).uniq.size).to eq(1)
    expect { described_class.check(moved) }.not_to raise_error
  end

  it "lets a desk of single patching do anything" do
    expect(described_class.mend(straight(8, from: blank("hazel-56")))).to eq({})
  end
end
