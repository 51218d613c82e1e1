# frozen_string_literal: true

module Loomshuttle
  module Songs
    # Sections of a song from markers in one of its files: each at the nearest bar, with an offset in samples if it is not meant to be exactly
    # there.
    module FromCues
      # A cue this close to a bar line (seconds) snaps to it; a song whose first cue comes later than a bar gets a section before it.
      NEAR = 0.05

      # @param cues [Array<Array(Integer, String)>] samples at the song's rate, and names
      # @param song [Song] provides tempo map and start
      # @return [Array<Hash>] sections as in SongFile
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
