# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Recorder
    # Looks each second at what is in the lanes: mains hum, and lanes that are alike. Both live far below 1 kHz, so lanes are
    # averaged down to that rate first; it costs next to nothing beside the meters.
    class Listening
      RATE = 1000

      # @param rate [Integer] samples a second of the lanes, a multiple of RATE
      # @param on_second [Proc] takes for each lane the amplitudes at LineCheck::Hum::FREQUENCIES, and the pairs that are alike
      def initialize(rate, &on_second)
        @step = rate / RATE
        @on_second = on_second
        @parts = []
        @frames = 0
      end

      # @param batch [Batch] whose frames are a multiple of the rate's thousandth
      def add(batch)
        @parts << Numo::DFloat.hstack(batch.blocks.map { |block| down(block) })
        @frames += batch.frames / @step
        return if @frames < RATE

        tell(Numo::DFloat.vstack(@parts))
        @parts.clear
        @frames = 0
      end

      private

      # Ruby runs one thread at a time: the one that follows the clock gets its turn between.
      def tell(second)
        Thread.pass
        lines = LineCheck::Hum.lines(second, RATE)
        Thread.pass
        @on_second.call(lines, LineCheck::Likeness.pairs(second))
      end

      def down(block) = block.reshape(block.shape[0] / @step, @step, block.shape[1]).sum(axis: 1).then { |sum| Numo::DFloat.cast(sum) / (@step * Audio::Pcm24::FULL_SCALE) }
    end
  end
end
