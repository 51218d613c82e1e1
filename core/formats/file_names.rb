# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Names of files and folders: readable, in the letters of every script, and safe on every file system.
    module FileNames
      # Bytes of a name. A file of a take has two and its numbers, and some file systems end at 143 bytes.
      MOST = 60
      # Names that some systems keep for devices.
      RESERVED = /\A(con|prn|aux|nul|com\d|lpt\d)\z/i
      private_constant :RESERVED

      class << self
        # @param name [String] as typed   @param most [Integer] longest result in bytes
        # @return [String] letters with accents, digits, spaces, - and _; "unnamed" if nothing is left. Letters are composed (NFC), because systems
        #   differ in how they store them
        def safe(name, most: MOST)
          plain = cut(name.scrub("_").unicode_normalize(:nfc).gsub(/[^\p{L}\p{M}\p{N} _-]/, "_").squeeze(" _").strip, most).strip
          return "unnamed" if plain.delete("_ -").empty?

          plain.match?(RESERVED) ? "#{plain}_" : plain
        end

        # @return [String] of a take, e.g. "0003 Second set"
        def take_folder(number, name) = "#{format('%04d', number)} #{safe(name)}"

        # @return [String] of one of its tracks, e.g. "Second set 0003 07 Fiddle.wav"
        def track(take_name, take_number, track_number, track_name)
          "#{safe(take_name)} #{format('%04d', take_number)} #{format('%02d', track_number)} #{safe(track_name)}.wav"
        end

        private

        # Between characters as people see them.
        def cut(text, most)
          size = 0
          text.each_grapheme_cluster.take_while { |one| (size += one.bytesize) <= most }.join
        end
      end
    end
  end
end
