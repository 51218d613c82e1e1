# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Broadcast WAV files of 24-bit PCM: RIFF/WAVE with a "bext" chunk (EBU Tech 3285).
    module Wav
      PCM = 1
      # Largest file a RIFF header can tell, less room for the headers.
      MAX_DATA_BYTES = (1 << 32) - (1 << 16)

      # Walks the chunks of a file until the samples.
      # @param file [IO]
      # @yieldparam id [String] four letters
      # @yieldparam size [Integer] bytes as its header tells
      # @yieldparam at [Integer] where its data starts
      # @return [Boolean] whether it is a RIFF/WAVE file
      def self.each_chunk(file)
        riff, _, wave = file.pread(12, 0).unpack("a4Va4")
        return false unless riff == "RIFF" && wave == "WAVE"

        at = 12
        while at + 8 <= file.size
          id, size = file.pread(8, at).unpack("a4V")
          yield id, size, at + 8
          break if id == "data"

          at += 8 + size + (size % 2)
        end
        true
      rescue EOFError
        false
      end
    end
  end
end
