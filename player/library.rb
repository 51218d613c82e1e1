# frozen_string_literal: true

require "digest"

module Loomshuttle
  module Player
    # The computer's songs, as their folders tell: each is read when it is asked for.
    class Library
      # @param root [String] folder of all songs   @param rate [Integer] that is played at
      def initialize(root, rate)
        @root, @rate = root, rate
      end

      # @param id [String]
      # @return [Array(String, String)] name of a song, and a checksum of all that is played of it
      def sum(id)
        data = Songs::SongFile.read(File.join(@root, File.basename(id)))
        [data["name"], Digest::SHA256.hexdigest(JSON.generate(data.except("version", "notes", "crew", "dye", "loudness")))[0, 32]]
      rescue SystemCallError, Invalid
        ["song #{id[0, 8]}", "missing"]
      end

      # @param id [String]
      # @return [Array(Songs::Song, Stock, Voice)] no voice where nothing is to be said
      # @raise [Invalid] when it cannot be played
      def open(id)
        folder = File.join(@root, File.basename(id))
        song = Songs::SongFile.song(Songs::SongFile.read(folder))
        unless song.rate == @rate
          raise Invalid.new("#{song.name} is kept at #{song.rate / 1000.0} kHz, and playback runs at #{@rate / 1000.0} kHz; bring it in again at that rate.", where: "song")
        end

        [song, Stock.new(song, folder), song.guide.on ? Voice.new(folder, song.guide, @rate) : nil]
      rescue SystemCallError
        raise Invalid.new("The song is not in this computer's library any more.", where: "song")
      end
    end
  end
end
