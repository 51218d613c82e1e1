# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # Blocks that were sent but have not sounded yet, so that they can be sent again at a lower level.
    class Horizon
      # Blocks that are kept: those of the largest buffer, and what is just made, however their times run.
      MOST = ((Config::BUFFER.max + 4800) / 480.0).ceil

      def initialize = @blocks = []

      # Forgets what was sent, because the clock jumped or the card dropped it.
      def clear = @blocks.clear

      # @param block [Numo::SFloat] [outputs, frames]   @param time [Integer] of its first frame
      def keep(block, time)
        @blocks << [time, block]
        @blocks.shift while @blocks.size > MOST
      end

      # @param from [Integer] time at which the fade starts   @param frames [Integer] its length
      # @yieldparam block [Numo::SFloat] the same block, faded   @yieldparam time [Integer] of its first frame
      def turn_down(from, frames)
        @blocks.each do |entry|
          time, block = entry
          next if time + block.shape[1] <= from

          at = Numo::SFloat.new(block.shape[1]).seq + (time - from)
          entry[1] = block * (1 - (at / frames).clip(0, 1)).expand_dims(0)
          yield entry[1], time
        end
      end
    end
  end
end
