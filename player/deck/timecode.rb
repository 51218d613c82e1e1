# frozen_string_literal: true

module Loomshuttle
  module Player
    # Linear timecode along a song, for light and video. The first song of the running order starts at one hour, the second at two, and so on, so
    # that times are unique (common practice, no published source).
    class Timecode
      # @param rate [Integer]   @param fps [Integer]   @param hour [Integer] timecode hour of the song's first sample
      def initialize(rate, fps, hour)
        @ltc = Audio::Ltc.new(rate, fps)
        @first = (hour % 24) * 3600 * fps
      end

      # @return [Numo::SFloat] [frames, 1]
      def read(from, frames) = @ltc.read(from, frames, @first).expand_dims(1)
    end
  end
end
