# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Names of takes and their files: safe on every system, readable, and never those of something that exists.
    module TakeFiles
      # Names that some systems keep for devices.
      RESERVED = /\A(con|prn|aux|nul|com\d|lpt\d)\z/i

      # @param name [String] as a person wrote it
      # @return [String] letters, digits, spaces, - and _ only; "unnamed" when nothing is left; 60 bytes at most
      def self.safe(name)
        plain = name.unicode_normalize(:nfkd).gsub(/\p{Mn}/, "").encode("US-ASCII", undef: :replace, invalid: :replace, replace: "_")
        plain = plain.gsub(/[^A-Za-z0-9 _-]/, "_").squeeze(" _").strip[0, 60].strip
        return "unnamed" if plain.delete("_ ").empty?

        plain.match?(RESERVED) ? "#{plain}_" : plain
      end

      # @param folder [String] where takes are kept
      # @return [Integer] number of the next take: one more than any that is there, or in its bin
      def self.next_number(folder)
        folders = [folder, File.join(folder, TakeChange::BIN)].select { |one| Dir.exist?(one) }
        numbers = folders.flat_map { |one| Dir.children(one).filter_map { |entry| entry[/\A(\d+) /, 1]&.to_i } }
        (numbers.max || 0) + 1
      end

      # @return [String] e.g. "0003 Second set"
      def self.folder(number, name) = "#{format('%04d', number)} #{safe(name)}"

      # @return [String] e.g. "Second set 0003 07 Fiddle.wav"
      def self.file(take_name, take_number, track_number, track_name)
        "#{safe(take_name)} #{format('%04d', take_number)} #{format('%02d', track_number)} #{safe(track_name)}.wav"
      end
    end
  end
end
