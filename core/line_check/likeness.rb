# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module LineCheck
    # Lanes that carry the same signal, or the same upside down, by the correlation of a second of both (Pearson's r).
    module Likeness
      # Two microphones never agree like this; a doubled patch does.
      SAME = 0.999
      # Two sides of one source, one of them turned over.
      TURNED = -0.9
      # What is quieter than this is not compared (amplitude, RMS).
      QUIET = 0.001

      # @param block [Numo::DFloat] [frames, lanes]
      # @return [Array<Array(Integer, Integer, Float)>] two lanes (0-based, ascending) and r, where it is SAME or TURNED
      def self.pairs(block)
        frames = block.shape[0]
        middle = block - block.mean(axis: 0)
        energy = (middle * middle).sum(axis: 0)
        lanes = (0...block.shape[1]).select { |lane| energy[lane] > QUIET * QUIET * frames }
        return [] if lanes.size < 2

        unit = middle[true, lanes] / Numo::NMath.sqrt(energy[lanes])
        found(unit.transpose.dot(unit), lanes)
      end

      def self.found(matrix, lanes)
        lanes.each_index.to_a.combination(2).filter_map do |one, two|
          r = matrix[one, two]
          [lanes[one], lanes[two], r] if r >= SAME || r <= TURNED
        end
      end
      private_class_method :found
    end
  end
end
