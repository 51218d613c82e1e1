# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # How much of a few frequencies is in many lanes at once, by Goertzel's recursion (G. Goertzel, "An Algorithm for the
    # Evaluation of Finite Trigonometric Series", American Mathematical Monthly 65, 1958), behind a Hann window.
    module Goertzel
      # @param block [Numo::DFloat] [frames, lanes]
      # @param frequencies [Array<Numeric>] in Hz, below half the rate
      # @param rate [Integer] samples a second
      # @return [Numo::DFloat] [frequencies, lanes], the amplitude of the sine that would read the same
      def self.amplitudes(block, frequencies, rate)
        frames = block.shape[0]
        window = hann(frames)
        input = block * window.reshape(frames, 1)
        factors = Numo::DFloat.cast(frequencies.map { |one| 2 * Math.cos(2 * Math::PI * one / rate) }).reshape(frequencies.size, 1)
        Numo::NMath.sqrt(powers(input, factors)) * (2 / window.sum)
      end

      class << self
        private

        def powers(input, factors)
          one = two = Numo::DFloat.zeros(factors.shape[0], input.shape[1])
          input.shape[0].times { |at| one, two = (factors * one) - two + input[at, true], one }
          ((one * one) + (two * two) - (factors * one * two)).clip(0, nil)
        end

        def hann(frames) = 0.5 - (Numo::NMath.cos(Numo::DFloat.new(frames).seq * (2 * Math::PI / frames)) * 0.5)
      end
    end
  end
end
