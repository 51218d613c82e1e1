# frozen_string_literal: true

module Loomshuttle
  module Web
    # A WAV file that is generated while it is sent, from any byte on. `block` gives its sound: so many frames from a frame on.
    class WavFlow
      # Seconds made at once.
      BLOCK = 0.5
      HEADER = 44

      # @param frames [Integer]   @param rate [Integer]   @param lanes [Integer]   @param bits [16, 24]
      def initialize(frames:, rate:, lanes:, bits:)
        @frames, @rate, @lanes, @bits = frames, rate, lanes, bits
        @frame = lanes * bits / 8
        @at, @upto = 0, size
      end

      # @return [Integer] bytes in all
      def size = HEADER + (@frames * @frame)

      # @param first [Integer] byte   @param upto [Integer] byte after the last
      # @return [WavFlow] with only these bytes
      def part(first, upto)
        @at, @upto = first, upto
        self
      end

      # @return [String, nil] the next bytes; nil at the end
      def next_part
        return if @at >= @upto

        bytes = @at < HEADER ? header.byteslice(@at..) : sound(@at - HEADER)
        return if bytes.empty?

        bytes = bytes.byteslice(0, @upto - @at)
        @at += bytes.bytesize
        bytes
      end

      def close = nil

      private

      # @param byte [Integer] behind the header
      def sound(byte)
        at, within = byte.divmod(@frame)
        count = [(BLOCK * @rate).round, @frames - at].min
        count.positive? ? block(at, count).byteslice(within..) : "".b
      end

      # A length beyond the header's range is written as the largest value; browsers keep playing.
      def header
        bytes = [size - HEADER, Formats::Wav::ELSEWHERE - 36].min
        ["RIFF", bytes + 36, "WAVE", "fmt ", 16, 1, @lanes, @rate, @rate * @frame, @frame, @bits, "data", bytes].pack("a4Va4a4VvvVVvva4V")
      end
    end
  end
end
