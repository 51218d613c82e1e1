# frozen_string_literal: true

module Loomshuttle
  module Songs
    # Sections of a song from markers in one of its files: each at the nearest bar, with an offset in samples if it is not meant to be exactly
    # there.
    module FromCues
      # A place so near to a bar (seconds) is on it; a song whose first place comes later than a bar begins with a section of its own.
      NEAR = 0.05

      # @param cues [Array<Array(Integer, String)>] samples at the song's rate, and names
      # @param song [Song] with its tempo map and beginning
      # @return [Array<Hash>] as SongFile has them
      def self.sections(cues, song)
        named = cues.reject { |at, name| name.match?(/\Aend\b/i) || at >= song.frames }.uniq(&:first)
        return [] if named.empty?

        named = [[0, "Start"], *named] if named.first.first > song.start + song.map.sample(song.map.bar(2))
        placed = named.map.with_index do |(at, name), nth|
          { "name" => name.empty? ? "Section #{nth + 1}" : name[0, 40], **Section.place(at, song, near: (NEAR * song.rate).round) }
        end
        placed.uniq { |one| one.values_at("bar", "shift") }.first(SongFile::SECTIONS).map.with_index(1) { |one, key| { "key" => key, **one } }
      end
    end
  end
end
