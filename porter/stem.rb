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

      # @return [Float, nil] loss in dB when both sides are summed at −3 dB each; nil for mono or silence. Unrelated
      #   sides lose 3 dB, equal ones nothing
      def mono_db
        return if @lanes == 1 || @sides.zero?

        (10 * Math.log10([@both / @sides, 1e-12].max)).round(1)
      end

      # @return [String] SHA-256 of the file
      def sum = Digest::SHA256.file(@writer.path).hexdigest

      private

      # Floats keep samples beyond full scale, because levels are applied before clipping.
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
