# frozen_string_literal: true

# Reads like a file of noise that differs from stem to stem.
NoiseFile = Struct.new(:lanes, :rate, :samples) do
  def bits = 32
  def close = nil
  def bytes(from, count, _into = nil) = samples[[from, samples.shape[0]].min...[from + count, samples.shape[0]].min, true].to_binary
end

# Sums that were made ahead, beside the same stems added block by block.
RSpec.describe Loomshuttle::Player::Sums do
  let(:rate) { 8000 }
  let(:lengths) { { 1 => 80_000, 2 => 76_543, 3 => 80_000 } } # the second stem ends within a second
  let(:song) do
    stems = lengths.map { |id, frames| SongHelp.stem(id, "Part #{id}", frames: frames).merge("lanes" => id == 3 ? 1 : 2, "gain_db" => -id) }
    sections = [{ "key" => 1, "name" => "A", "bar" => 1 }, { "key" => 2, "name" => "B", "bar" => 3 }]
    short(rate: rate, frames: 80_000, stems: stems, sections: sections, click: { "on" => true })
  end
  let(:noise) { lengths.to_h { |id, frames| [id, Numo::SFloat.from_binary(Random.new(id).bytes(frames * (id == 3 ? 1 : 2) * 2).unpack("s*").pack("f*"), [frames, id == 3 ? 1 : 2]) / 65_536] } }
  let(:roles) { [role("Part 1", 1, 2), role("Part 2", 2), role("Part 3", 1, 3), role("Click", 3)] }

  def opened
    stock = Loomshuttle::Player::Stock.new(song, "/nowhere", open: lambda { |path|
      NoiseFile.new(song.stem(File.basename(path).to_i).lanes, rate, noise.fetch(File.basename(path).to_i))
    })
    loaded(song, roles: roles, stock: stock)
  end

  def deck = Loomshuttle::Player::Deck.new(rate: rate, outputs: 3).tap { |deck| deck.load(opened) }

  # Two decks in step; only the first one adds up ahead.
  def both(decks, blocks, frames)
    Array.new(blocks) do
      nil while decks[0].loaded.material.fill
      nil while decks[1].loaded.material.stock.fill
      decks.map { |deck| deck.render(frames) }
    end
  end

  it "is heard as the stems are, to the bit: through jumps, with other roles, and to the end of a short stem" do
    decks = [deck, deck]
    decks.each { |one| one.command("play") }
    heard = both(decks, 20, 333)
    decks.each { |one| one.command("jump", section: 2, at_next: "beat") }
    heard += both(decks, 40, 333)
    decks.each { |one| one.roles = [role("Part 1", 3), role("Part 2", 1, 2, sum_db: -6)] }
    heard += both(decks, 400, 161)
    heard.each { |with, without| expect(with).to eq(without) }
    expect(heard.map(&:first).sum { |block| block.ne(0).count_true }).to be > 100_000
  end

  it "has what plays next, and no more than it needs" do
    material = opened.material
    (0..9).each do |second|
      material.stock.play_from(second * rate, 0)
      nil while material.fill
      expect(material.sums.of((second * rate) + 7990, 20).map(&:shape)).to eq([[3, 10], [3, 10]]) if second < 9
      expect(material.sums.instance_variable_get(:@sums).size).to be <= described_class::AHEAD + described_class::BEHIND
    end
  end

  it "does not give what was made for other roles, or what is not in memory" do
    material = opened.material
    expect(material.sums.of(0, 480)).to be_nil
    nil while material.fill
    expect([material.sums.of(0, 480).size, material.sums.of(-8, 480), material.sums.of(50_000, 480)]).to eq([1, nil, nil])
    material.roles = [role("Part 1", 1)]
    expect(material.sums.of(0, 480)).to be_nil
    nil while material.fill
    expect(material.sums.of(0, 480).first.shape).to eq([1, 480])
  end
end
