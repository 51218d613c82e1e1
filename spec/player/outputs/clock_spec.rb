# frozen_string_literal: true

RSpec.describe Loomshuttle::Player::Clock do
  let(:clock) { described_class.new }

  def hear(timestamp, source: 5, now: 0.0)
    clock.hear(Loomshuttle::Formats::Rtp::Packet.new(97, 0, timestamp % (1 << 32), source, ""), now)
  end

  def begin_at(timestamp) = 3.times.map { |n| hear(timestamp + (n * 240) - 480) }

  it "believes its first sender once three of its packets follow on each other" do
    expect(begin_at(1000)).to eq([nil, nil, :jumped])
    expect([clock.time, clock.restarts]).to eq([1000, 0])
  end

  it "counts on through the end of the counter, and never back" do
    begin_at((1 << 32) - 240)
    times = [0, 240, 0, 480].map { |timestamp| hear(timestamp) && clock.time }
    expect(times).to eq([0, 240, 240, 480].map { |after| (1 << 32) + after })
  end

  it "believes another time only when it goes on" do
    begin_at(1000)
    [9_000_000, 500_000, 77_000_000, 1_000_000_000, 400_000, 3_000_000_000].each { |timestamp| expect(hear(timestamp)).to be_nil }
    expect(hear(1240)).to eq(:on)
    expect([500_000, 500_240, 500_480].map { |timestamp| hear(timestamp) }).to eq([nil, nil, :jumped])
    expect([clock.time, clock.restarts]).to eq([500_480, 1])
  end

  # Five hundred a second once chopped the song.
  it "takes nothing from strangers while its sender is there, whatever they send and however well it follows" do
    begin_at(1000)
    random = Random.new(12)
    (1..500).each do |n|
      expect(hear(1000 + (n * 240), now: n * 0.005)).to eq(:on)
      5.times do |m|
        expect(hear([random.rand(1 << 32), 77_000_000 + (240 * ((5 * n) + m)), 1000 + (n * 240) + 12_000].sample(random: random), source: 6 + (m % 2), now: n * 0.005)).to be_nil
      end
    end
    expect([clock.time, clock.restarts, clock.foreign]).to eq([121_000, 0, 2500])
  end

  it "takes another sender once the first has been silent, at its time or where it was" do
    begin_at(1000)
    expect(hear(2000, source: 9, now: 0.4)).to be_nil
    expect([2240, 2480, 2720].map { |timestamp| hear(timestamp, source: 9, now: 0.6) }).to eq([nil, nil, :on])
    expect([clock.time, clock.restarts]).to eq([2720, 0])
    expect([7_000_000, 7_000_240, 7_000_480].map { |timestamp| hear(timestamp, source: 10, now: 2) }).to eq([nil, nil, :jumped])
    expect([clock.time, clock.restarts]).to eq([7_000_480, 1])
  end
end
