# frozen_string_literal: true

RSpec.describe Loomshuttle::Player::Stock do
  def song(stems, rate, seconds: 60)
    SongHelp.song(rate: rate, frames: seconds * rate, stems: (1..stems).map do |n|
      SongHelp.stem(n, "Strings #{n}", frames: seconds * rate).merge("lanes" => 2)
    end, click: { "on" => false })
  end

  def bytes(stock) = stock.instance_variable_get(:@pieces).values.sum { |piece| piece.values.sum(&:byte_size) }

  # 64 stereo stems at 96 kHz once held 590 MB. Here rate and bound are a twelfth of that.
  it "holds no more than its bound, however many stems there are, and reads what plays all the same" do
    stub_const("#{described_class}::MOST", described_class::MOST / 12)
    one = song(64, 8000)
    stock = DeckHelp.stock(one)
    12.times do |second|
      stock.play_from(second * one.rate, 40 * one.rate)
      nil while stock.fill
      missed = 0
      heard = stock.read(1, second * one.rate, one.rate * 3 / 2) { missed += 1 }
      expect([bytes(stock) <= described_class::MOST, missed, (heard[0, 0] * (1 << 23)).round]).to eq([true, 0, (second * one.rate) + 1])
    end
  end

  it "reads as far ahead as ever where there is room" do
    stock = DeckHelp.stock(song(2, 8000))
    nil while stock.fill
    missed = 0
    stock.read(1, 0, described_class::AHEAD * 8000) { missed += 1 }
    expect(missed).to eq(0)
  end
end
