# frozen_string_literal: true

RSpec.describe Loomshuttle::Player::Deck do
  let(:ended) { [] }
  let(:deck) { described_class.new(rate: 48_000, outputs: 4, on_end: ->(item) { ended << item.item }) }

  def on(song = short, **more)
    deck.load(loaded(song, **more))
    deck.command("play")
    deck
  end

  it "plays a stem sample by sample, begins at once and tells its end" do
    on(item: 7)
    expect(positions(deck, 385_440, size: 960)).to eq((1..384_000).to_a + ([0] * 960))
    expect([ended, deck.playing?, deck.missed]).to eq([[7], false, 0])
  end

  it "does a command at its sample, in the middle of a block" do
    deck.load(loaded(short))
    deck.command("play", at: 700)
    deck.command("stop", at: 5000)
    heard = positions(deck, 9600)
    expect(heard.index(1)).to eq(700)
    expect(heard[700...5000]).to eq((1..4300).to_a)
    expect(heard[5480..].uniq).to eq([0])
    expect(heard[5000...5480].each_cons(2).map { |one, other| other - one }.max).to be <= 1
  end

  it "goes on from where it was stopped, from silence" do
    on
    positions(deck, 9600)
    deck.command("stop")
    positions(deck, 960)
    expect(deck.status).to include("state" => "stopped", "position" => 10_080)
    deck.command("play")
    expect(positions(deck, 960)[384]).to eq(10_081)
  end

  it "is silent within 10 ms of a panic, without a step, also from a loud place" do
    deck.load(loaded(short(frames: 7_000_000, sections: [], stems: [stem(1, "Strings", frames: 7_000_000)])))
    deck.command("play", sample: 6_000_000)
    positions(deck, 4800)
    deck.command("panic")
    heard = positions(deck, 1920)
    expect(heard.index(0)).to be <= 480
    expect(heard.each_cons(2).map { |one, other| (one - other).abs }.max).to be < 6_100_000 / 200
    expect(deck.status["state"]).to eq("stopped")
  end

  it "fades out in so many seconds, ever softer" do
    on
    positions(deck, 48_000)
    deck.command("fade", seconds: 0.5)
    levels = positions(deck, 24_480).each_slice(480).map { |slice| slice.map(&:abs).max }
    expect(levels).to eq(levels.sort.reverse)
    expect([levels[24].between?(8_000, 17_000), levels.last, deck.playing?]).to eq([true, 0, false])
  end

  # A crossfade begins before its section does, in the second before it here.
  it "has the beginning of every section in memory, with what is faded in before it" do
    frames = 60 * 48_000
    long = short(frames: frames, stems: [stem(1, "Strings", frames: frames)], sections: (0...6).map { |nth| section(nth + 1, "Part #{nth + 1}", 1 + (20 * nth)) })
    deck.load(loaded(long))
    nil while deck.loaded.material.fill
    deck.command("play")
    [4, 2, 6, 3].each do |key|
      deck.command("jump", section: key, at_next: "beat")
      24.times { deck.render(480) } # nothing is read during this
      nil while deck.loaded.material.fill
    end
    expect([deck.missed, deck.status["section"]]).to eq([0, 3])
  end

  it "jumps on the grid to the sample, and what was not done yet is told and taken back" do
    on
    positions(deck, 12_000)
    deck.command("jump", section: 4, at_next: "bar")
    expect(deck.status).to include("asked" => { "kind" => "jump", "edge" => 24_000, "section" => 4 })
    heard = positions(deck, 24_000)
    expect(heard[11_999 - 384]).to eq(24_000 - 384)
    expect(heard[12_000...24_000]).to eq((((12 * 24_000) + 1)..((12 * 24_000) + 12_000)).to_a)
    deck.command("jump", section: 2)
    deck.command("take.back")
    expect(deck.status["asked"]).to be_nil
  end

  it "begins what follows with the very next sample, or after its pause, where the song starts automatically" do
    on(short(follows: "on"))
    deck.follow_with(loaded(short, item: 2))
    heard = positions(deck, 385_440)
    expect(heard[383_999..384_001]).to eq([384_000, 1, 2])
    expect(deck.status).to include("item" => 2, "state" => "playing")
  end

  it "waits a pause, and takes that back" do
    on(short(follows: "pause", pause: 0.5))
    deck.follow_with(loaded(short))
    heard = positions(deck, 432_000)
    expect(heard[384_000...408_000].uniq).to eq([0])
    expect(heard[408_000]).to eq(1)
    on(short(follows: "pause", pause: 0.5)) if deck.command("stop") && positions(deck, 960)
    deck.follow_with(loaded(short))
    positions(deck, 385_920)
    deck.command("take.back")
    expect(positions(deck, 48_000).uniq).to eq([0])
  end

  it "waits for a hand where the song says so" do
    on
    deck.follow_with(loaded(short, item: 2))
    positions(deck, 432_000)
    expect(deck.status).to include("state" => "ready", "item" => nil, "next" => "Tide")
  end

  it "refuses what cannot be, and goes on" do
    expect { deck.command("play") }.to raise_error(Loomshuttle::Invalid, /No song loaded/)
    on
    expect { deck.load(loaded(short)) }.to raise_error(Loomshuttle::Invalid, /stop it first/)
    expect { deck.command("dance") }.to raise_error(Loomshuttle::Invalid, /no command dance/)
    deck.command("jump", section: 99, at: 1000)
    expect(positions(deck, 2400).last).to eq(2400)
  end

  it "is silent where a stem is not in memory, says so, and comes back with it where it belongs" do
    on
    slow = Array.new(3) { (deck.render(480)[0, true] * (1 << 23)).to_a }.flatten
    expect([slow.uniq, deck.missed]).to eq([[0], 3])
    expect(positions(deck, 480).first).to eq(1441)
  end

  # Against a mix by hand: the same song with other roles, in whole figures.
  it "sends what there is to its outputs: left and right, summed, lowered, and a bed under the click" do
    two = short(stems: [stem(1, "Strings", lanes: 2, frames: 384_000), stem(2, "Loop", frames: 384_000, gain_db: -6)])
    roles = [role("Strings", 1, sum_db: -6), role("Loop", 2, 3), role("Click", 4), role("Guide")]
    on(two, roles: roles)
    nil while deck.loaded.material.fill
    block = deck.render(480)[true, 479] * (1 << 23)
    half, third = 10**(-6 / 20.0), Math.sqrt(0.5)
    expect(block.to_a).to match([be_within(0.01).of(960 * half), be_within(0.01).of(480 * half * third), be_within(0.01).of(480 * half * third), 0])
    deck.roles = [role("Strings", 1, 2, bed_db: -20), role("Click", 4)]
    expect((deck.render(480)[true, 479] * (1 << 23)).to_a).to match([960, 960, 0, be_within(0.01).of(960 * 0.2 * (10**(-3 / 20.0)))])
  end
end
