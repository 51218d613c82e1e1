# frozen_string_literal: true

# Decks to test on, with stems that tell which of their samples is heard: sample n of a stem has the value (n + 1) / 2^23, which a 32-bit
# float holds exactly.
module DeckHelp
  # Reads like a file.
  Counted = Struct.new(:lanes, :rate, :frames) do
    def bits = 32
    def close = nil

    def bytes(from, count, _into = nil)
      count = (frames - from).clamp(0, count)
      Numo::SFloat.cast((Numo::DFloat.new(count).seq + from + 1) / (1 << 23)).reshape(count, 1).dot(Numo::SFloat.ones(1, lanes)).to_binary
    end
  end

  module_function

  def role(name, *outputs, **more)
    Loomshuttle::Songs::Role.new(name: name, kind: Loomshuttle::Songs::Role.kind_of(name), outputs: outputs, sum_db: -3, gain_db: 0, bed_db: nil).with(**more)
  end

  def stock(song) = Loomshuttle::Player::Stock.new(song, "/nowhere", open: ->(path) { Counted.new(song.stem(File.basename(path).to_i).lanes, song.rate, song.frames) })

  def loaded(song, roles: [role("Strings", 1)], tonight: Loomshuttle::Songs::Tonight.plain, item: nil, stock: DeckHelp.stock(song))
    Loomshuttle::Player::Loaded.new(item: item, material: Loomshuttle::Player::Material.new(song, stock, roles), tonight: tonight)
  end

  # A short song without click: 16 bars of 24,000 samples.
  def short(**changes)
    usual = { tempos: [{ "at" => 0, "bpm" => 240 }], meters: [{ "bar" => 1, "meter" => "2/4" }], frames: 16 * 24_000,
              stems: [SongHelp.stem(1, "Strings", frames: 16 * 24_000)], click: { "on" => false } }
    SongHelp.song(**usual, **changes)
  end

  # @return [Array<Integer>] which samples an output gave, 0 for silence
  def positions(deck, frames, output: 0, size: 480)
    Array.new(frames / size) do
      [deck.loaded, deck.following].compact.each { |one| nil while one.material.fill }
      (deck.render(size)[output, true] * (1 << 23)).to_a
    end.flatten
  end
end

RSpec.configure { |config| config.include(DeckHelp) }
