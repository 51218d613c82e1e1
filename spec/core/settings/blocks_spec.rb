# frozen_string_literal: true

RSpec.describe Loomshuttle::Settings::Blocks do
  let(:show) { straight(32, from: chained) }

  def complete(now, settings, **options) = set(now, Loomshuttle::Steps::Completed.settings(now, settings, **options))

  it "sees a straight patch as blocks without any free slot" do
    derived = described_class.derive(show, :stage)
    expect(named(derived.first)).to eq(1 => "link/a/up/1", 2 => "link/a/up/9", 3 => "link/a/up/17", 4 => "link/a/up/25", 5 => nil)
    expect(derived.free).to eq({})
  end

  it "is empty for a desk that patches singly" do
    expect(described_class.derive(straight, :stage).to_h).to eq(first: {}, free: {})
  end

  it "takes free slots for single cells, and says which" do
    crossed = complete(show, { "channel/6/stage" => "link/a/up/9", "channel/9/stage" => "link/a/up/6", "channel/3/stage" => nil })
    expect(named(described_class.derive(crossed, :stage).free)).to eq(6 => "link/a/up/9", 9 => "link/a/up/6", 3 => nil)
  end

  it "moves a whole block along when asked to" do
    moved = complete(show, { "channel/3/stage" => "desk/in/3" }, moving: "block")
    expect(named((1..8).map { |n| moved.channels[n].stage })).to eq((1..8).map { |n| "desk/in/#{n}" })
    expect(moved.channels[9].stage).to eq(point("link/a/up/9"))
  end

  it "moves a block along when all free slots are taken, and says when no block can" do
    full = (1..3).reduce(show) { |now, block| complete(now, (1..8).to_h { |at| ["channel/#{(block * 8) + at}/stage", at.odd? ? "desk/line/1" : "desk/in/2"] }) }
    left = 24 - described_class.derive(full, :stage).free.size
    full = complete(full, (33..(32 + left)).to_h { |n| ["channel/#{n}/stage", "desk/in/7"] })
    expect(described_class.derive(full, :stage).free.size).to eq(24)
    expect { complete(full, { "channel/2/stage" => "desk/in/1" }) }.to raise_error(Loomshuttle::Invalid, /blocks of 8: no block can start so that channel 2 hears In 1/)
    expect(complete(full, { "channel/2/stage" => "desk/in/2" }).channels[8].stage).to eq(point("desk/in/8"))
  end

  it "moves take sources and flips by block" do
    moved = complete(show, { "channel/10/take" => "card/return/34" })
    expect(named((9..16).map { |n| moved.channels[n].take })).to eq((33..40).map { |n| "card/return/#{n}" })
    flipped = set(show, Loomshuttle::Steps::Flip.edit(show, to: "take", channels: [3]).settings)
    expect(flipped.channels.values.select { |channel| channel.position == "take" }.map(&:number)).to eq((1..8).to_a)
  end

  it "lets nobody break what the desk cannot do" do
    expect { set(show, "channel/10/take" => "card/return/34") }.to raise_error(Loomshuttle::Invalid, /take sources run in blocks of 8/)
    expect { set(show, "channel/10/position" => "take") }.to raise_error(Loomshuttle::Invalid, /channels 9 to 16 flip together/)
    wild = (1..32).to_h { |n| ["channel/#{n}/stage", "desk/line/#{(n % 3) + 1}"] }
    expect { set(show, wild) }.to raise_error(Loomshuttle::Invalid, /and Alder 40 has 24 free slots/)
  end

  it "says of any channel what it hears, over random patches: block and slots together are the channels' own sources" do
    random = Random.new(5)
    names = show.profile.stage_points.map(&:name)
    50.times do
      settings = Array.new(random.rand(1..10)) { ["channel/#{random.rand(1..40)}/stage", [nil, *names].sample(random: random)] }.to_h
      now = complete(show, settings)
      derived = described_class.derive(now, :stage)
      blocks = described_class.new(now, :stage)
      heard = blocks.members.flat_map.with_index(1) { |numbers, block| numbers.map.with_index { |n, at| derived.free.fetch(n) { blocks.run(derived.first[block], at) } } }
      expect(heard).to eq(now.channels.values.map(&:stage))
    rescue Loomshuttle::Invalid
      next
    end
  end
end
