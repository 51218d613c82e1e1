# frozen_string_literal: true

RSpec.describe Loomshuttle::Timing::TempoMap do
  let(:tempo) { described_class::Tempo }

  def map(tempos, meters = [[1, "4/4"]], rate: 48_000)
    described_class.new(tempos.map { |at, bpm, ramp| tempo.new(at: at, bpm: bpm, ramp: ramp || false) },
                        meters.map { |bar, text| described_class.meter(text, bar: bar) }, rate: rate)
  end

  # Worked by hand: at 120 quarter notes per minute one lasts 24,000 samples of 48 kHz, at 90 one lasts 32,000.
  it "puts beats where they fall" do
    plain = map([[0, 120], [8, 90]])
    expect([0, 1, 8, 9, 12].map { |quarter| plain.sample(quarter) }).to eq([0, 24_000, 192_000, 224_000, 320_000])
    expect(map([[0, "97.5"]]).seconds(195)).to eq(120)
  end

  it "counts bars through changing time signatures" do
    odd = map([[0, 120]], [[1, "4/4"], [3, "7/8"], [5, "3/4"]])
    expect((1..6).map { |bar| odd.bar(bar) }).to eq([0, 4, 8, 23/2r, 15, 18])
    expect([0, 9, 23/2r, 33/2r].map { |quarter| odd.place(quarter) }).to eq([[1, 1], [3, 3], [4, 1], [5, 5/2r]])
  end

  # The same sum in fractions, told apart from the class: seconds of a quarter note are 60 / bpm.
  it "is exact to the sample over an hour of tempo changes, there and back" do
    random = Random.new(11)
    changes = Array.new(400) { |n| [n * 16, random.rand(400..2400) / 10.0] }
    plain = map(changes)
    seconds = 0r
    changes.each do |at, bpm|
      [0, random.rand(1..15)].each do |beat|
        expect(plain.seconds(at + beat)).to eq(seconds + (beat * 60 / bpm.rationalize(1/1000r)))
        sample = plain.sample(at + beat)
        expect(plain.sample(plain.quarter(sample))).to eq(sample)
        expect(plain.quarter(sample).round(2)).to eq(at + beat)
      end
      seconds += 16 * 60 / bpm.rationalize(1/1000r)
    end
    expect(seconds).to be > 2700
  end

  # The time of a ramp is the integral of 60 / b over the beats: 60 · n · ln(b1 / b0) / (b1 - b0); summed up here in small steps.
  it "goes evenly with the beats from tempo to tempo in a ramp" do
    ramp = map([[0, 120, true], [16, 60], [32, 60]])
    steps = 160_000
    summed = (0...steps).sum { |n| 60.0 / (120 - (60 * (n + 0.5) / steps)) * 16 / steps }
    expect(ramp.seconds(16)).to be_within(1e-7).of(summed)
    expect(ramp.sample(17) - ramp.sample(16)).to eq(48_000)
    (0..320).each { |n| expect(ramp.sample(ramp.quarter(ramp.sample(n/10r)))).to eq(ramp.sample(n/10r)) }
  end

  { [[[1, 120]]] => /from the beginning/, [[[0, 120], [4, 100], [4, 90]]] => /each later/, [[[0, 19]]] => /from 20 to 400/, [[]] => /from one to/,
    [[[0, 120]], [[2, "4/4"]]] => /from bar 1/ }.each do |(tempos, meters), message|
    it("refuses #{tempos} #{meters}") { expect { map(tempos, *[meters].compact) }.to raise_error(Loomshuttle::Invalid, message) }
  end

  ["0/4", "33/4", "4/3", "4", "4/4/4", "x"].each { |text| it("refuses #{text}") { expect { described_class.meter(text) }.to raise_error(Loomshuttle::Invalid, %r{reads like 7/8}) } }
end
