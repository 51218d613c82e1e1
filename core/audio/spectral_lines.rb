# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # The level of a few frequencies in many lanes at once: sums of the discrete Fourier transform for these frequencies only, with a Hann window
    # (A. V. Oppenheim, R. W. Schafer, "Discrete-Time Signal Processing", chapters 8 and 10). Lanes are rows inside, since Numo sums along rows many
    # times faster.
    module SpectralLines
      @waves = {}

      # @param block [Numo::DFloat] [frames, lanes]
      # @param frequencies [Array<Numeric>] in Hz, below half the rate
      # @param rate [Numeric] samples a second
      # @return [Numo::DFloat] [frequencies, lanes], the amplitude of a sine that gives the same reading, full scale 1.0
      def self.amplitudes(block, frequencies, rate)
        window, waves = waves(block.shape[0], frequencies, rate)
        rows = block.transpose * window
        parts = waves.map { |pair| pair.map { |wave| rows.mulsum(wave, axis: 1) } }
        Numo::DFloat[*parts.map { |real, imaginary| Numo::NMath.sqrt((real * real) + (imaginary * imaginary)) }] * (2 / window.sum)
      end

      class << self
        private

        # The window, and cosine and sine of each frequency. The last ones are kept: the same are asked for each second.
        def waves(frames, frequencies, rate)
          key = [frames, frequencies, rate]
          return @waves[:made] if @waves[:key] == key

          turns = Numo::DFloat.new(frames).seq * (2 * Math::PI)
          window = 0.5 - (Numo::NMath.cos(turns / frames) * 0.5)
          made = [window, frequencies.map { |one| (turns * (one / rate.to_f)).then { |angle| [Numo::NMath.cos(angle), Numo::NMath.sin(angle)] } }]
          @waves = { key: key, made: made }
          made
        end
      end
    end
  end
end
