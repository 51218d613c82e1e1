# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Broadcast WAV files: RIFF/WAVE with a "bext" chunk (EBU Tech 3285), of 24-bit PCM or 32-bit float, that become RF64
    # (EBU Tech 3306) when they outgrow what RIFF can tell.
    module Wav
      PCM = 1
      FLOAT = 3
      # Largest value of RIFF's 32 bits; a field with it means that the "ds64" chunk holds the true one.
      ELSEWHERE = 0xFFFFFFFF

      # Chunks that a file has at most; more are not a sound file, but a disk full of zeros.
      MOST = 500

      # Walks the chunks of a file up to the samples, or to the end of the file.
      # @param file [IO]
      # @param whole [Boolean] whether to continue after the samples
      # @yieldparam id [String] four letters
      # @yieldparam size [Integer] bytes according to its header (or "ds64")
      # @yieldparam at [Integer] where its data starts
      # @return [Boolean] whether it is a RIFF/WAVE or RF64 file
      def self.each_chunk(file, whole: false)
        riff, _, wave = file.pread(12, 0).unpack("a4Va4")
        return false unless %w[RIFF RF64].include?(riff) && wave == "WAVE"

        at = 12
        long = nil
        seen = 0
        while at + 8 <= file.size && (seen += 1) <= MOST
          id, size = file.pread(8, at).unpack("a4V")
          long = file.pread(16, at + 8).unpack1("x8Q<") if id == "ds64"
          size = long if id == "data" && size == ELSEWHERE && long
          yield id, size, at + 8
          break if id == "data" && !whole

          at += 8 + size + (size % 2)
        end
        true
      rescue EOFError
        false
      end
    end
  end
end
