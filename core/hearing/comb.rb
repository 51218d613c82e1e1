# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # The notches of a comb filter, where a sound arrives twice and the later arrival is out of polarity with the first: f = (2k + 1) / (2 dt).
    module Comb
      # @param samples [Integer] difference in arrival   @param rate [Integer] samples per second   @param first [Integer] how many notches
      # @return [Array<Float>] the lowest notches in Hz; empty for equal times
      def self.notches(samples, rate, first: 3)
        return [] if samples.zero?

        seconds = samples.abs.to_f / rate
        (0...first).map { |k| ((2 * k) + 1) / (2 * seconds) }
      end
    end
  end
end
