# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Where a sound that arrives twice is weakest: the notches of a comb filter, where the later one is turned over against the first, at
    # f = (2k + 1) / (2 dt).
    module Comb
      # @param samples [Integer] between both   @param rate [Integer] samples a second
      # @return [Array<Float>] the first notches in Hz
      def self.notches(samples, rate, first: 3)
        return [] if samples.zero?

        seconds = samples.abs.to_f / rate
        (0...first).map { |k| ((2 * k) + 1) / (2 * seconds) }
      end
    end
  end
end
