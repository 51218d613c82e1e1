# frozen_string_literal: true

require "digest"
require "json"

module Loomshuttle
  module Player
    # Reads songs from their folders when they are needed.
    class SongReader
      # @param root [String] folder of all songs   @param rate [Integer] playback rate, samples per second
      def initialize(root, rate)
        @root, @rate = root, rate
      end

      # @param id [String]
      # @return [Array(String, String)] name of a song, and a checksum of everything that can be played
      def sum(id)
        data = Songs::SongFile.read(File.join(@root, File.basename(id)))
        [data["name"], Digest::SHA256.hexdigest(JSON.generate(data.except("version", "notes", "crew", "dye", "loudness")))[0, 32]]
      rescue SystemCallError, Invalid
        ["song #{id[0, 8]}", "missing"]
      end

      # @return [Boolean] whether its stems have been prepared for a tempo and key
      def made?(id, tempo, key)
        folder = File.join(@root, File.basename(id))
        there?(folder, Songs::Varied.data(Songs::SongFile.read(folder), tempo, key))
      rescue SystemCallError, Invalid
        false
      end

      # @param id [String]   @param tonight [Songs::Tonight] skips, repeats, tempo and key
      # @return [Array(Songs::Song, Stock, Voice)] Voice is nil if the song has no spoken guide
      # @raise [Invalid] if it cannot be played
      def open(id, tonight = Songs::Tonight.plain)
        folder = File.join(@root, File.basename(id))
        song = Songs::SongFile.song(varied(folder, Songs::SongFile.read(folder), tonight.tempo, tonight.key))
        unless song.rate == @rate
          raise Invalid.new("#{song.name} is stored at #{song.rate / 1000.0} kHz; playback runs at #{@rate / 1000.0} kHz. Import it again at that rate.", where: "song")
        end

        [song, Stock.new(song, folder), song.guide.on ? Voice.new(folder, song.guide, @rate) : nil]
      rescue SystemCallError
        raise Invalid.new("The song is not in this computer's library any more.", where: "song")
      end

      private

      # In another key or tempo it is played whole or not at all.
      def varied(folder, data, tempo, key)
        varied = Songs::Varied.data(data, tempo, key)
        return varied if Songs::Varied.plain?(tempo, key) || there?(folder, varied)

        raise Invalid.new("#{data['name']} is not rendered at #{Songs::Varied.words(tempo, key)} yet. Render it under Tonight, in Playback.", where: "song")
      end

      def there?(folder, data) = data["stems"].all? { |stem| File.file?(File.join(folder, stem["file"])) }
    end
  end
end
