# frozen_string_literal: true

RSpec.describe Loomshuttle::LineCheck::Ear do
  let(:show) { set(straight(4), "channel/3/name" => "Fiddle") }
  let(:ear) { described_class.new.tap { |one| one.follow(sources) } }

  def sources(now = show, desk = {}) = Loomshuttle::LineCheck::Sources.of(now, desk)
  def quiet = Array.new(18, -90.0)
  def play(times, levels) = times.times { ear.meters("desk", quiet.each_index.map { |at| levels.fetch(at, -90.0) }, quiet.each_index.map { |at| levels.fetch(at, -90.0) - 10 }) }
  def words(alignment = -18) = ear.roll(alignment).map { |line| line.verdict.word }

  it "calls every channel that hears something, in patch order or by need" do
    play(30, 0 => -8.0, 1 => -30.0, 2 => 0.0)
    expect(words).to eq(["good", "low", "clipped", "not heard yet"])
    expect(described_class.by_need(ear.roll(-18)).map { |line| line.source.number }).to eq([3, 2, 4, 1])
  end

  it "says of a good source that went quiet how long, and what it was; of a bad one, too" do
    play(30, 0 => -8.0, 1 => -30.0)
    play(199, {})
    expect(words.first(2)).to eq(%w[good low])
    play(620, {})
    good, low = ear.roll(-18).first(2).map(&:verdict)
    expect([good.word, good.reason, good.settings]).to eq(["silent", "silent for 0:40, was good", {}])
    expect([low.word, low.reason]).to match(["low", end_with("; silent for 0:40")])
    play(500, {})
    expect(ear.roll(-18).first.verdict.reason).to eq("silent for 1:00, was good")
    play(1, 0 => -8.0)
    expect(words.first).to eq("good")
  end

  it "puts first what is another thing than when somebody checked it, until it is checked again or back" do
    play(30, 0 => -8.0, 1 => -8.0, 2 => 0.0)
    [1, 2].each { |channel| ear.check(channel, true, -18) }
    expect(ear.roll(-18).map(&:was)).to all(be_nil)
    play(200, 1 => -8.0, 2 => 0.0)
    play(20, 1 => -8.0)
    roll = ear.roll(-18)
    expect(roll.map(&:was)).to eq(["good", nil, nil, nil])
    expect(described_class.by_need(roll).first.source.number).to eq(1)
    ear.follow(sources(set(show, "channel/1/name" => "Another show's")))
    expect(ear.roll(-18).first.was).to be_nil
    ear.follow(sources)
    expect(ear.roll(-18).first.was).to eq("good")
    ear.check(1, true, -18)
    expect(ear.roll(-18).first.was).to be_nil
    play(30, 0 => -8.0)
    expect(ear.roll(-18).first.was).to eq("silent")
    ear.check(1, false, -18)
    expect(ear.roll(-18).first.was).to be_nil
    ear.check(2, true, -18)
    play(300, {})
    ear.uncheck
    expect(ear.roll(-18).map(&:was)).to all(be_nil)
  end

  it "begins again with a source whose preamp was turned, and goes on with the others" do
    play(30, 0 => -30.0, 1 => -30.0)
    ear.follow(sources(set(show, "channel/2/gain" => 12)))
    expect(words.first(2)).to eq(["low", "not heard yet"])
    play(40, 0 => -30.0, 1 => -8.0)
    expect(words.first(2)).to eq(%w[low good])
  end

  it "goes by what the desk says where it differs from the plan" do
    ear.follow(sources(show, "channel/1/gain" => 31))
    play(30, 0 => -20.0)
    expect(ear.roll(-18).first.verdict.settings).to eq("channel/1/gain" => 43)
  end

  it "says who just made a noise, long enough to be seen, and the next one at once" do
    play(40, 1 => -70.0)
    expect(ear.noise).to be_nil
    play(2, 1 => -20.0, 2 => -40.0)
    expect(ear.noise).to eq(2)
    play(described_class::LIT, {})
    expect(ear.noise).to eq(2)
    play(10, {})
    expect(ear.noise).to be_nil
    play(40, {})
    play(1, 1 => -20.0)
    play(1, 3 => -10.0)
    expect(ear.noise).to eq(4)
  end

  it "does not flicker from one to the other while a whole band plays" do
    play(40, {})
    lit = Array.new(100) do |frame|
      play(1, { (frame / 3) % 4 => -10.0 })
      ear.noise
    end
    expect(lit.compact.uniq.size).to be > 1
    expect(lit.each_slice(20).map { |second| second.each_cons(2).count { |one, other| one != other } }.max).to be <= 3 # a second's borders need not be ours
    expect(lit.each_cons(2).count { |one, other| one != other }).to be <= 10
  end

  it "measures the stage past a channel that hears the take, where a send is taken at the preamp" do
    ear.follow(sources(set(show, "channel/1/position" => "take", "channel/2/position" => "take", "send/2/tap" => "post-fader")))
    30.times { ear.meters("lanes", Array.new(16, -8.0), Array.new(16, -18.0)) }
    expect(words.first(2)).to eq(["good", "not heard yet"])
    expect(ear.roll(-18)[1].verdict.reason).to include("on take")
  end

  it "tells of sources that are alike, but not of one socket on two channels" do
    ear.follow(sources(set(show, "channel/2/stage" => "desk/in/1")))
    ear.second([], [[0, 1, 1.0], [2, 3, -0.97]])
    expect(ear.roll(-18).map(&:also)).to eq([[], [], ["out of polarity with Channel 4 Source 4: invert one (correlation −0.970)"],
                                             ["out of polarity with Channel 3 Fiddle: invert one (correlation −0.970)"]])
  end

  it "hears hum in the lane that carries a source" do
    lines = Array.new(4) { Array.new(10, 0.0) }
    lines[1] = [0.02, 0.01, 0.005, 0.0, 0.0] + Array.new(5, 0.0)
    play(30, 1 => -12.0)
    5.times { ear.second(lines, []) }
    expect(ear.roll(-18)[1].verdict).to have_attributes(word: "hum", reason: start_with("50, 100, 150 Hz are steady at −32.8 dBFS"))
    ear.forget(2)
    expect(words[1]).to eq("not heard yet")
  end

  it "hears both sides of a stereo channel" do
    wide = set(blank, "channel/17/stage" => "desk/line/1", "send/1/source" => "desk/ch/17/l", "send/2/source" => "desk/ch/17/r")
    ear.follow(sources(wide))
    play(30, 16 => -40.0, 17 => -8.0)
    expect(ear.roll(-18).first).to have_attributes(peak: -8.0)
    ear.second([], [[0, 1, 1.0]])
    expect(ear.roll(-18).first.also).to eq(["both sides carry the same signal (correlation 1.000)"])
  end

  it "knows no preamp of what comes by the card" do
    source = sources(set(chained, "channel/1/stage" => "card/return/31", "channel/1/name" => "Backing")).first
    expect(source).to have_attributes(number: 1, gain: nil, preamp: nil)
  end
end
