# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # Short sounds at samples of a song, such as strokes of a click.
    class Events
      # @param events [Array<Array(Integer, Numo::NArray)>] start sample and sound of each event, in order
      def initialize(events)
        @starts = events.map(&:first)
        @sounds = events.map { |_, sound| Numo::SFloat.cast(sound) }
        @longest = @sounds.map(&:size).max.to_i
      end

      # @return [Numo::SFloat, nil] [frames, 1]; nil for silence
      def read(from, frames)
        at = @starts.bsearch_index { |start| start > from - @longest } or return
        block = nil
        while at < @starts.size && @starts[at] < from + frames
          block = add(block || Numo::SFloat.zeros(frames, 1), @sounds[at], @starts[at] - from)
          at += 1
        end
        block
      end

      private

      def add(block, sound, late)
        first, last = [late, 0].max, [late + sound.size, block.shape[0]].min
        block[first...last, 0] += sound[(first - late)...(last - late)] if first < last
        block
      end
    end
  end
end
