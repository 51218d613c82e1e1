# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # A steady tone that shows that this player is healthy. Its phase follows the clock, so it continues without a step as long as the clock does,
    # and it stops with the player.
    class Pilot
      # hz   frequency     amplitude   of its peaks     outputs   numbers
      Tone = Value.define(:hz, :amplitude, :outputs)

      # @param tone [Tone, nil]
      def initialize(rate, tone = nil)
        @rate, @tone = rate, tone
      end

      # @param tone [Tone, nil] from now on
      attr_writer :tone

      # @param block [Numo::SFloat] [outputs, frames], added to   @param time [Integer] of its first frame
      def add(block, time)
        tone = @tone or return
        wave = wave_at(tone, time, block.shape[1])
        tone.outputs.each { |output| block[output - 1, true].inplace + wave if output <= block.shape[0] }
      end

      # The output while nothing plays.
      # @param silence [Numo::SFloat] [outputs, frames]   @param time [Integer] of its first frame
      # @return [Numo::SFloat] frozen; the same array as long as its content is the same
      def alone(silence, time)
        tone = @tone or return silence
        wave = wave_at(tone, time, silence.shape[1])
        return @alone if @alone_of.equal?(wave)

        @alone_of = wave
        @alone = silence.dup.tap { |block| add(block, time) }.freeze
      end

      private

      # Whole turns are left out first, so that the phase stays exact however late it is.
      def wave_at(tone, time, frames) = wave(tone, (Rational(tone.hz.to_r * time, @rate) % 1).to_f, frames)

      # Most blocks begin in the same phase as the one before, since a block is a whole number of its turns.
      def wave(*which)
        return @wave if @made == which

        tone, first, frames = @made = which
        @wave = Numo::SFloat.cast(Numo::NMath.sin((first + (Numo::DFloat.new(frames).seq * (tone.hz / @rate.to_f))) * (2 * Math::PI)) * tone.amplitude)
      end
    end
  end
end
