# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # Converts floats to the bytes of a 24-bit WAV, limited at full scale: the same bytes as Pcm24.limit and to_wav, in two thirds of the time.
    # Once Pcm24::ROUND is added, the low octets of a 64-bit float are the sample in two's complement, so nothing has to be cast. Its arrays
    # are reused from block to block, so use one instance per thread.
    class LimitedWav
      # A float from here on rounds to more than the largest sample.
      ROUNDS_UP = Pcm24::FULL_SCALE - 0.5
      private_constant :ROUNDS_UP

      # @param samples [Numo::SFloat] of one lane, full scale 1.0
      # @yieldparam where [Numo::Bit] true for each sample beyond full scale; yielded only if there are any
      # @return [String]
      def bytes(samples, &)
        low, high = samples.minmax
        return Pcm24.to_wav(Pcm24.limit(samples, &)) if high * Pcm24::FULL_SCALE >= ROUNDS_UP || low < -1

        frames = samples.size
        make_room(frames)
        @wide.store(samples)
        whole = (@wide.inplace * Pcm24::FULL_SCALE) + Pcm24::ROUND
        @octets.store_binary(whole.to_binary)
        Pcm24::BYTES.times { |at| @out[true, at] = @octets[true, at] }
        @out.to_binary
      end

      private

      def make_room(frames)
        return if @wide && @wide.size == frames

        @wide, @octets, @out = Numo::DFloat.new(frames).allocate, Numo::UInt8.new(frames, 8).allocate, Numo::UInt8.new(frames, Pcm24::BYTES).allocate
      end
    end
  end
end
