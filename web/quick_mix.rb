# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Web
    # A take to listen to in the browser: one track, or all of them in a quick mix, as 16-bit stereo WAV that is made while it is
    # sent, from any byte of it on.
    class QuickMix
      # Seconds made at once.
      BLOCK = 0.5
      # Sources that play together add as power, so n of them are turned down by the root of n; the rest is headroom.
      HEADROOM = 2.0
      HEADER, FRAME = 44, 4

      # @param take [Hash] manifest with "folder"
      # @param track [Integer, nil] number of the only one to hear
      # @param from [Integer] frame
      # @raise [Invalid]
      def initialize(take, track: nil, from: 0)
        @take = take
        @from = from.clamp(0, take["frames"])
        chosen = take["tracks"].select { |one| track.nil? || one["number"] == track }
        raise Invalid.new("Take #{take['number']} has no track #{track}.", where: "track") if chosen.empty?

        @files = chosen.map { |one| File.join(take["folder"], one["file"]) }
        @gain = chosen.size == 1 ? 1.0 : HEADROOM / Math.sqrt(chosen.size)
        @at, @upto = 0, size
      end

      # @return [Integer] bytes in all
      def size = HEADER + ((@take["frames"] - @from) * FRAME)

      # @param first [Integer] byte   @param upto [Integer] byte behind the last
      # @return [QuickMix] that gives only these
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

      def close = @readers&.each(&:close)

      private

      def readers = @readers ||= @files.map { |path| Formats::Wav::Reader.new(path) }

      # @param byte [Integer] behind the header
      def sound(byte)
        frame, within = byte.divmod(FRAME)
        at = @from + frame
        count = [(BLOCK * @take["rate"]).round, @take["frames"] - at].min
        count.positive? ? block(at, count).byteslice(within..) : "".b
      end

      def block(from, size)
        sum = Numo::DFloat.zeros(size, 2)
        readers.each do |reader|
          samples = reader.read(from, size)
          next if samples.empty?

          2.times { |side| sum[0...samples.shape[0], side] += samples[true, [side, reader.lanes - 1].min] }
        end
        Numo::Int16.cast((sum * (@gain / 256)).round.clip(-32_768, 32_767)).to_binary
      end

      # A length beyond what the header can tell is told as its most; browsers play on.
      def header
        bytes = [size - HEADER, Formats::Wav::ELSEWHERE - 36].min
        ["RIFF", bytes + 36, "WAVE", "fmt ", 16, 1, 2, @take["rate"], @take["rate"] * FRAME, FRAME, 16, "data", bytes].pack("a4Va4a4VvvVVvva4V")
      end
    end
  end
end
