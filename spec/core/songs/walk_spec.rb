# frozen_string_literal: true

RSpec.describe Loomshuttle::Songs::Walk do
  let(:bar) { 96_000 }
  let(:fade) { 384 }

  # Which samples of the song are heard, as a list of [from, frames] without crossfades; those are told by whole samples only.
  def heard(walk, blocks, size: 480)
    found = []
    blocks.times do
      walk.take(size).select(&:whole?).each do |span|
        found.any? && found.last.sum == span.from ? found.last[1] += span.frames : found << [span.from, span.frames]
      end
    end
    found
  end

  def walk(song = self.song, **from) = described_class.new(song, **from)

  it "goes through a song once, sample by sample, whatever the blocks" do
    [480, 37, 9600].each do |size|
      one = walk
      expect(heard(one, (16 * bar / size) + 1, size: size)).to eq([[0, 16 * bar]])
      expect(one).to be_over
    end
  end

  it "jumps to a section at the next bar, and what begins there begins whole" do
    one = walk
    one.take(bar + 100)
    expect(one.jump(4, at_next: "bar")).to have_attributes(edge: 2 * bar, kind: "jump")
    expect(heard(one, 400)).to eq([[bar + 100, bar - 100 - fade], [12 * bar, (400 * 480) - (bar - 100)]])
    expect(one).to have_attributes(asked: nil, pass: have_attributes(section: have_attributes(name: "Out")))
  end

  it "jumps at the next beat, at the end of the section, and never behind it" do
    one = walk
    one.take((2 * bar) - 25_000)
    expect(one.jump(3, at_next: "beat").edge).to eq((2 * bar) - 24_000)
    expect(one.jump(3, at_next: "section").edge).to eq(2 * bar)
    one.take_back
    one.take(24_900)
    expect(one.jump(4, at_next: "bar").edge).to eq(2 * bar)
  end

  it "goes on without a seam where a jump leads to what comes anyway" do
    one = walk
    one.jump(2, at_next: "section")
    expect(heard(one, 500)).to eq([[0, 240_000]])
  end

  it "goes around a section until it is left, and counts" do
    one = walk(section: 3)
    one.take(100)
    one.around = true
    13.times { one.take(bar) }
    expect(one).to have_attributes(rounds: 3, around: true)
    one.around = false
    one.take(6 * bar)
    expect(one.pass.section.name).to eq("Out")
  end

  it "is not around any more where a jump has led elsewhere" do
    one = walk(section: 3)
    one.take(100)
    one.around = true
    one.jump(2, at_next: "section")
    one.take(7 * bar)
    expect(one).to have_attributes(around: false, pass: have_attributes(section: have_attributes(key: 2)))
    one.take(6 * bar)
    expect(one.pass.section.key).not_to eq(2)
  end

  it "takes back what was asked" do
    one = walk
    one.jump(4, at_next: "section")
    expect(one.take_back).to be(true)
    expect(one.take_back).to be(false)
    one.take(3 * bar)
    expect(one.pass.section.name).to eq("Verse")
  end

  it "stops at the end of the section, with what is there faded and not cut" do
    one = walk
    one.stop
    spans = Array.new(500) { one.take(480) }.flatten
    expect(spans.last).to have_attributes(last: 0.0)
    expect(spans.last.from + spans.last.frames).to eq(2 * bar)
    expect([one.over?, one.take(480)]).to eq([true, []])
  end

  it "skips and repeats sections tonight" do
    tonight = Loomshuttle::Songs::Tonight.plain.with(skips: [2], repeats: { 1 => 2 })
    one = described_class.new(song, tonight)
    expect(one.passes.map { |pass| [pass.section.name, pass.nth, pass.of] }).to eq([["Intro", 1, 2], ["Intro", 2, 2], ["Chorus", 1, 1], ["Out", 1, 1]])
    expect(one.left).to eq(14 * bar)
    expect(heard(one, 14 * bar / 480).map(&:first)).to eq([0, 0, 6 * bar])
    expect(one).to be_over
    expect { described_class.new(song, tonight.with(skips: [1, 2, 3, 4])) }.to raise_error(Loomshuttle::Invalid, /every section is skipped/)
    expect { one.jump(2) }.to raise_error(Loomshuttle::Invalid, /Verse is not played tonight/)
  end

  it "begins in the middle from silence" do
    one = walk(sample: bar)
    expect(one.take(1000)).to match([have_attributes(at: 0, from: bar - fade, frames: fade, first: 0.0, last: 1.0), have_attributes(at: fade, from: bar, first: 1.0)])
  end

  it "counts in before the stems where they do not wait for it" do
    one = walk(song(click: { "count_in" => 2 }))
    expect(one.song.lead).to eq(-2 * bar)
    expect(one.take(10).first.from).to eq(-2 * bar)
    expect(walk(song(click: { "count_in" => 2 }, start: 2 * bar)).song.lead).to eq(0)
  end

  # What is heard is one piece of song after the other; every seam is a crossfade whose gains sum to one.
  it "is seamless through a thousand seeded jumps" do
    random = Random.new(5)
    one = walk(song(meters: [{ "bar" => 1, "meter" => "4/4" }, { "bar" => 4, "meter" => "7/8" }, { "bar" => 9, "meter" => "3/4" }]))
    jumps = 0
    gains = Hash.new(0)
    done = 0
    while jumps < 1000
      size = random.rand(1..2000)
      one.take(size).each do |span|
        [0, span.frames - 1].uniq.each { |n| gains[done + span.at + n] += span.first + ((span.last - span.first) * n / span.frames) }
      end
      done += size
      expect(gains.values.map { |gain| gain.round(9) }.uniq).to eq([1.0]), "at #{done}"
      gains.clear
      next if one.asked || random.rand > 0.2

      one.jump(random.rand(1..3), at_next: described_class::AT_NEXT.sample(random: random))
      jumps += 1
    end
  end
end
