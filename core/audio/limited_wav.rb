# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # Floats as the bytes of a 24-bit WAV, limited at full scale: the same bytes as Pcm24.limit and to_wav give, in two thirds of the time.
    # A 64-bit float to which Pcm24::ROUND was added holds the whole number in its low octets, in two's complement, so that nothing has
    # to be cast. It keeps its arrays from one block to the next, so it belongs to one thread.
    class LimitedWav
      # A float from here on rounds to more than the largest sample.
      ROUNDS_UP = Pcm24::FULL_SCALE - 0.5
      private_constant :ROUNDS_UP

      # @param samples [Numo::SFloat] of one lane, full scale 1.0
      # @yieldparam where [Numo::Bit] the samples beyond full scale, if there are any
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
