# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # The gain of the whole song: 1, except during a fade.
    class Gain
      # @return [Symbol, nil] why it is turned down
      attr_reader :why

      def initialize = rise

      # Goes back to full level.
      def rise
        @why, @left, @frames = nil, 0, 0
      end

      # Fades to silence; long fades slow down towards the end.
      # @param frames [Integer]   @param why [Symbol]
      def fall(frames, why)
        level = now
        @from, @frames, @left, @why = level, frames, frames, why
      end

      # @return [Boolean] whether the fade has reached silence
      def silent? = !@why.nil? && @left.zero?

      # @param block [Numo::SFloat] [outputs, frames], changed in place
      def turn(block)
        return unless @why

        frames = block.shape[1]
        at = Numo::SFloat.new(frames).seq + (@frames - @left)
        block.store(block * shape(at / @frames).expand_dims(0))
        @left = [@left - frames, 0].max
      end

      private

      def now = @why ? shape(Numo::SFloat[(@frames - @left).fdiv([@frames, 1].max)])[0] : 1.0

      def shape(part)
        left = 1 - part.clip(0, 1)
        (@why == :fade ? left * left : left) * @from
      end
    end
  end
end
