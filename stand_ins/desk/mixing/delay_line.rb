# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # A delay line. It keeps its content, so that a changed delay has sound from the start.
      class DelayLine
        # @param longest [Integer] samples   @param lanes [Integer]
        def initialize(longest, lanes = 1)
          @longest, @lanes = longest, lanes
          @place = 0
        end

        # @param block [Numo::DFloat] [frames, lanes], always the same number of frames
        # @param delay [Integer] samples, up to the longest
        # @return [Numo::DFloat] the delayed block, same shape
        def pass(block, delay)
          frames = block.shape[0]
          @ring ||= Numo::DFloat.zeros(@longest + frames, @lanes)
          put(block, frames)
          from = (@place - delay) % @ring.shape[0]
          @place = (@place + frames) % @ring.shape[0]
          take(from, frames)
        end

        private

        def put(block, frames)
          first = [frames, @ring.shape[0] - @place].min
          @ring[@place...(@place + first), true] = block[0...first, true]
          @ring[0...(frames - first), true] = block[first...frames, true] if first < frames
        end

        def take(from, frames)
          first = [frames, @ring.shape[0] - from].min
          return @ring[from...(from + first), true].dup if first == frames

          @ring[from...(from + first), true].concatenate(@ring[0...(frames - first), true])
        end
      end
    end
  end
end
