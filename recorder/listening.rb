# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Recorder
    # Looks each second at what is in the lanes: mains hum, and lanes that are alike. Both live far below 1 kHz, so lanes are
    # averaged down to that rate first; it costs next to nothing beside the meters.
    class Listening
      RATE = 1000

      # @param rate [Integer] samples a second of the lanes; what they are averaged down to is RATE, or a little more where that is no multiple
      # @param on_second [Proc] takes for each lane the amplitudes at LineCheck::Hum::FREQUENCIES, and the pairs that are alike
      def initialize(rate, &on_second)
        @step = rate / RATE
        @rate = rate / @step.to_f
        @on_second = on_second
        @parts = []
        @frames = 0
      end

      # @param batch [Batch]; one without sound begins anew
      def add(batch)
        return forget if batch.silent?

        blocks = with_left_over(batch.blocks)
        @parts << Numo::DFloat.hstack(blocks.map { |block| down(block) })
        @frames += blocks.first.shape[0] / @step
        return if @frames < RATE

        second = Numo::DFloat.vstack(@parts)
        @parts.clear
        @frames = 0
        tell(second)
      end

      private

      def forget
        @parts.clear
        @left = nil
        @frames = 0
      end

      # Whole steps, and what is left of one for the next time.
      def with_left_over(blocks)
        blocks = @left.zip(blocks).map { |left, block| left.concatenate(block) } if @left
        frames = blocks.first.shape[0]
        whole = frames - (frames % @step)
        @left = whole == frames ? nil : blocks.map { |block| block[whole..-1, true].dup }
        whole == frames ? blocks : blocks.map { |block| block[0...whole, true].dup }
      end

      # Ruby runs one thread at a time: the one that follows the clock gets its turn between.
      def tell(second)
        Thread.pass
        lines = LineCheck::Hum.lines(second, @rate)
        Thread.pass
        @on_second.call(lines, LineCheck::Likeness.pairs(second))
      end

      def down(block) = block.reshape(block.shape[0] / @step, @step, block.shape[1]).sum(axis: 1).then { |sum| Numo::DFloat.cast(sum) / (@step * Audio::Pcm24::FULL_SCALE) }
    end
  end
end
