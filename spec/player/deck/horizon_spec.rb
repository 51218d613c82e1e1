# frozen_string_literal: true

RSpec.describe Loomshuttle::Player::Horizon do
  let(:horizon) { described_class.new }

  def block(value = 1.0) = Numo::SFloat.ones(2, 480) * value

  # @return [Hash{Integer=>Array<Float>}] what is sent again: time => the first output
  def turned(from, frames)
    sent = {}
    horizon.turn_down(from, frames) { |again, time| sent[time] = again[0, true].to_a }
    sent
  end

  it "fades out what has not sounded yet over the given frames, and leaves what has" do
    4.times { |n| horizon.keep(block, n * 480) }
    sent = turned(600, 240)
    expect(sent.keys).to eq([480, 960, 1440])
    expect(sent[480].first(120)).to all(eq(1.0))
    expect(sent[480][120..].each_cons(2).map { |one, next_one| (one - next_one).round(4) }.tally.keys).to contain_exactly(0.0042, 0.0)
    expect([sent[480][240].round(2), sent[480].last, sent[960].uniq, sent[1440].uniq]).to eq([0.5, 0.0, [0.0], [0.0]])
  end

  it "stays turned down when it is turned down again" do
    horizon.keep(block, 0)
    turned(0, 480)
    expect(turned(0, 480_000)[0].each_with_index.all? { |value, at| value <= 1 - (at / 480.0) + 1e-6 }).to be(true)
  end

  # By count: a clock that goes back, or stands still, once made it grow without limit.
  it "keeps the largest buffer and what is just made, however times run" do
    most = described_class::MOST
    expect(most * 480).to be >= Loomshuttle::Player::Config::BUFFER.max + 4800
    (most * 10).times { |n| horizon.keep(block, -n) }
    expect(turned(-1_000_000, 480).size).to eq(most)
    horizon.clear
    expect(turned(-1_000_000, 480)).to eq({})
  end
end
