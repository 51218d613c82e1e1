# frozen_string_literal: true

module Loomshuttle
  module Player
    # A song that is ready to play.
    #   item      its number in the running order, or nil     material   what sounds of it
    #   tonight   Songs::Tonight
    Loaded = Value.define(:item, :material, :tonight)

    class Loaded
      def song = material.song

      # @return [Numeric, nil] seconds until the next song starts automatically; nil if it waits for Play
      def goes_on
        follows, pause = tonight.follows || song.follows, tonight.pause || song.pause
        { "on" => 0, "pause" => pause }[follows]
      end
    end
  end
end
