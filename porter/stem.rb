# frozen_string_literal: true

require "digest"
require "numo/narray"

module Loomshuttle
  module Porter
    # One stem on its way into the library: 32-bit float, as the player reads it, with its mono loss.
    class Stem < Converted
      attr_reader :columns

      def initialize(...)
        super
        @sides = @both = 0.0
      end

      # @return [Float, nil] dB that it gets softer by when both sides are added up, each 3 dB lower; nil of a mono one, or silence. Sides that
      #   have nothing in common lose 3 dB, equal ones nothing
      def mono_db
        return if @lanes == 1 || @sides.zero?

        (10 * Math.log10([@both / @sides, 1e-12].max)).round(1)
      end

      # @return [String] SHA-256 of the file
      def sum = Digest::SHA256.file(@writer.path).hexdigest

      private

      # Floats keep what is beyond full scale: the song is turned down before it is limited.
      def keep(block)
        @writer.write(Numo::SFloat.cast(block).to_binary)
        scaled = block * Audio::Pcm24::FULL_SCALE
        measure(scaled)
        return if @lanes == 1

        left, right = [0, 1].map { |side| scaled[true, side] }
        @sides += ((left**2) + (right**2)).sum
        @both += (((left + right)**2) / 2).sum
      end
    end
  end
end
