# frozen_string_literal: true

module Loomshuttle
  module Player
    # The items of the running order, and opening their songs.
    class OrderItems
      # @param item [Hash] as Config::ITEM
      # @return [Songs::Tonight]
      def self.tonight(item)
        Songs::Tonight.new(skips: item.fetch("skips", []), repeats: item.fetch("repeats", {}).transform_keys(&:to_i), follows: item["follows"], pause: item["pause"],
                           tempo: item.fetch("tempo", 100), key: item.fetch("key_by", 0))
      end

      # @param library [SongReader]   @param config [Config]
      def initialize(library, config)
        @library, @config = library, config
      end

      # @return [Array<Integer>]
      def keys = @config["items"].map { |item| item["key"] }

      # @param key [Integer, nil]
      # @return [Hash, nil] as Config::ITEM
      def find(key) = @config["items"].find { |item| item["key"] == key }

      # @return [Hash] as Config::ITEM
      # @raise [Invalid]
      def fetch(key) = find(key) || raise(Invalid.new("The running order has no song #{key}.", where: "item"))

      # @param key [Integer, nil]
      # @return [Hash, nil] the item after it
      def after(key) = @config["items"].index { |item| item["key"] == key }&.then { |at| @config["items"][at + 1] }

      # @param loaded [Loaded]
      # @return [Boolean] whether a loaded song still matches the running order
      def current?(loaded)
        item = find(loaded.item)
        !item.nil? && loaded.song.id == item["song"] && loaded.tonight == self.class.tonight(item) && (item["version"].nil? || item["version"] == loaded.song.version)
      end

      # Opens the song of an item and reads enough of it to start at once.
      # @param item [Hash] as Config::ITEM
      # @return [Loaded]
      # @raise [Invalid] if it cannot be opened
      def open(item)
        tonight = self.class.tonight(item)
        song, stock, voice = @library.open(item["song"], tonight)
        Songs::Pass.all(song, tonight)
        2.times { stock.fill } # so that it may begin at once
        timecode = Timecode.new(song.rate, @config["fps"], @config["items"].index(item) + 1)
        Loaded.new(item: item["key"], material: Material.new(song, stock, @config.roles, voice: voice, timecode: timecode), tonight: tonight)
      end
    end
  end
end
