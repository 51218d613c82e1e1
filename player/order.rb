# frozen_string_literal: true

module Loomshuttle
  module Player
    # The running order at the deck: which song is on, which one is made ready ahead, what was played. Songs are opened on a thread that is
    # not the clock's (`fill`).
    class Order
      # @return [String, nil] why the next song cannot be played
      attr_reader :problem

      # @param item [Hash] as Config::ITEM
      # @return [Songs::Tonight]
      def self.tonight(item)
        Songs::Tonight.new(skips: item.fetch("skips", []), repeats: item.fetch("repeats", {}).transform_keys(&:to_i), follows: item["follows"], pause: item["pause"],
                           tempo: item.fetch("tempo", 100), key: item.fetch("key_by", 0))
      end

      # @param deck [Deck]   @param library [Library]   @param config [Config]
      def initialize(deck, library, config)
        @deck, @library, @config = deck, library, config
        @played = []
        @opening = Mutex.new # held while songs are opened
        @ended = Queue.new
      end

      # Puts a song on, which must be in memory before it can begin.
      # @param key [Integer] of an item
      # @raise [Invalid]
      def put_on(key)
        item = find(key) or raise Invalid.new("The running order has no song #{key}.", where: "item")
        @opening.synchronize do
          loaded = ready?(item) ? @next : opened(item)
          previous = @deck.loaded
          @deck.load(loaded)
          drop_next
          let_go(previous)
        end
        make_ready
      end

      # Called by the clock's thread: a song is through.
      # @param loaded [Loaded]
      def ended(loaded) = @ended << loaded

      # Reads ahead, and makes the next song ready.
      # @return [Boolean] whether there was something to do
      def fill
        look_back
        read = [@deck.loaded, @deck.following].compact.map { |one| one.material.stock.fill }
        read.any?
      end

      # The running order or what is in it has changed.
      def renew
        @opening.synchronize { drop_next unless @next && current?(@next) }
        again = @deck.loaded
        put_on(again.item) if again && !@deck.playing? && find(again.item) && !current?(again)
        make_ready
      rescue Invalid => e
        @problem = e.message
      end

      # @return [Array<Hash>] key of each item, and whether it was played
      def told = @config["items"].map { |item| { "key" => item["key"], "played" => @played.include?(item["key"]) } }

      private

      def look_back
        return if @ended.empty?

        until @ended.empty?
          loaded = @ended.pop(true)
          @played = (@played | [loaded.item]).last(1000)
          @opening.synchronize { let_go(loaded) }
        end
        make_ready
      end

      # What comes after the song that is on.
      def make_ready
        @opening.synchronize do
          current = @deck.loaded&.item
          at = @config["items"].index { |item| item["key"] == current }
          following = at && @config["items"][at + 1]
          @problem = nil
          next drop_next unless following
          next if ready?(following)

          drop_next
          @next = opened(following)
          @problem = nil
          @deck.follow_with(@next)
        end
      rescue Invalid => e
        @problem = e.message
      end

      # @param item [Hash] of the running order
      def ready?(item) = !@next.nil? && @next.item == item["key"] && current?(@next)

      # Whether a song is still as the running order has it.
      def current?(loaded)
        item = find(loaded.item)
        !item.nil? && loaded.song.id == item["song"] && loaded.tonight == Order.tonight(item) && (item["version"].nil? || item["version"] == loaded.song.version)
      end

      # What follows may have begun by itself just now.
      def drop_next
        @deck.follow_with(nil)
        let_go(@next) if @next
        @next = nil
      end

      def find(key) = @config["items"].find { |item| item["key"] == key }

      def opened(item)
        tonight = Order.tonight(item)
        song, stock, voice = @library.open(item["song"], tonight)
        Songs::Pass.all(song, tonight)
        2.times { stock.fill } # so that it may begin at once
        timecode = Timecode.new(song.rate, @config["fps"], @config["items"].index(item) + 1)
        Loaded.new(item: item["key"], material: Material.new(song, stock, @config.roles, voice: voice, timecode: timecode), tonight: tonight)
      end

      # Files of what is on stay open.
      def let_go(loaded)
        loaded.material.stock.close unless loaded.nil? || loaded.equal?(@deck.loaded)
      end
    end
  end
end
