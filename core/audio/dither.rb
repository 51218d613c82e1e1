# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # Triangular dither of two quantizing steps, peak to peak, for whatever is reduced to fewer bits: rounding then leaves a steady noise and
    # no distortion (Lipshitz, Wannamaker and Vanderkooy, "Quantization and Dither: A Theoretical Survey", JAES 40(5), 1992; from memory).
    # The noise at a frame is always the same one, so that a file which is made in parts is the same however it is asked for.
    module Dither
      # Frames after which the noise repeats, for one lane and another.
      PERIOD = 65_521
      private_constant :PERIOD

      class << self
        # @param block [Numo::DFloat] in quantising steps of the result, [frames] or [frames, lanes]   @param at [Integer] position of its first frame
        # @param steps [Integer] full scale of the result, e.g. 32_768 for 16 bits
        # @return [Numo::DFloat] whole numbers of the same shape, clipped at full scale; digital silence stays silent
        def round(block, at, steps)
          lanes = block.ndim == 1 ? 1 : block.shape[1]
          noisy = block.ndim == 1 ? block + noise(at, block.size, 0) : block.dup
          lanes.times { |lane| noisy[true, lane] += noise(at, block.shape[0], lane) } if block.ndim == 2
          noisy[block.eq(0)] = 0
          noisy.round.clip(-steps, steps - 1)
        end

        private

        def noise(at, frames, lane)
          first = (at + (lane * (PERIOD / 3))) % PERIOD
          return table[first...(first + frames)] if first + frames <= PERIOD

          table[(Numo::Int64.new(frames).seq + first) % PERIOD]
        end

        # The difference of two uniform random numbers, each one step wide, from a fixed seed.
        def table
          @table ||= begin
            random = Random.new(1992)
            Numo::DFloat.cast(Array.new(PERIOD) { random.rand - random.rand })
          end
        end
      end
    end
  end
end
