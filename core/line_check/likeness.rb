# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module LineCheck
    # Lanes with the same signal, or the same with inverted polarity, by the correlation of one second of both (Pearson's r).
    module Likeness
      # Two microphones never agree like this; a doubled patch does.
      SAME = 0.999
      # Two sides of one source, one of them turned over.
      TURNED = -0.9
      # What is quieter than this is not compared (amplitude, RMS).
      QUIET = 0.001

      # @param block [Numo::DFloat] [frames, lanes]
      # @return [Array<Array(Integer, Integer, Float)>] two lanes (0-based, ascending) and their correlation r, if that reaches SAME or TURNED
      def self.pairs(block)
        rows = block.transpose
        middle = rows - rows.mean(axis: 1).expand_dims(1)
        energy = middle.mulsum(middle, axis: 1)
        lanes = (0...rows.shape[0]).select { |lane| energy[lane] > QUIET * QUIET * rows.shape[1] }
        return [] if lanes.size < 2

        found(middle[lanes, true] / Numo::NMath.sqrt(energy[lanes]).expand_dims(1), lanes)
      end

      # @param rows [Numo::DFloat] [lanes, frames], each row with energy 1
      def self.found(rows, lanes)
        (0...(lanes.size - 1)).flat_map do |one|
          rows[(one + 1)..-1, true].mulsum(rows[one, true], axis: 1).to_a.each_with_index.filter_map do |r, nth|
            [lanes[one], lanes[one + 1 + nth], r] if r >= SAME || r <= TURNED
          end
        end
      end
      private_class_method :found
    end
  end
end
