# frozen_string_literal: true

module Loomshuttle
  module Songs
    # Changes of a song for tonight. The song itself stays as it is.
    #   skips     keys of sections that are left out        repeats   key of a section => how often it is played
    #   follows   what comes after it, or nil: as the song says     pause   seconds
    #   tempo     percent of the song's own      key     semitones that it is transposed by
    Tonight = Value.define(:skips, :repeats, :follows, :pause, :tempo, :key) do
      def self.plain = new(skips: [].freeze, repeats: {}.freeze, follows: nil, pause: nil, tempo: 100, key: 0)
    end
  end
end
