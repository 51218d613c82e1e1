# frozen_string_literal: true

module Loomshuttle
  module Player
    # The running order at the deck: which song is loaded, which one is prepared ahead, what was played. Only the opener opens songs (Opener),
    # so stop works at once while one is being opened.
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
      # @param opener [Opener]
      def initialize(deck, library, config, opener: Opener.new)
        @deck, @library, @config, @opener = deck, library, config, opener
        @played = []
        @ended = Queue.new
      end

      # Puts a song on, which must be in memory before it can begin, and waits for that.
      # @param key [Integer] of an item
      # @raise [Invalid]
      def put_on(key)
        item = find(key) or raise Invalid.new("The running order has no song #{key}.", where: "item")
        @opener.wait { exchange(item) }
        @opener.later(:make_ready) { make_ready }
      end

      # Puts a song on without waiting. A song that cannot be opened is reported as a problem.
      # @param key [Integer] of an item
      # @yield once it is on
      # @raise [Invalid] when there is no such item
      def put_on_later(key)
        item = find(key) or raise Invalid.new("The running order has no song #{key}.", where: "item")
        @opener.later(:put_on) do
          exchange(item)
          yield if block_given?
          make_ready
        rescue Invalid => e
          @problem = e.message
        end
      end

      # Called by the clock's thread: a song is through.
      # @param loaded [Loaded]
      def ended(loaded) = @ended << loaded

      # Reads ahead, and makes the next song ready.
      # @return [Boolean] whether there was something to do
      def fill
        unless @ended.empty? || @settling
          @settling = true
          @opener.later(:settle) { settle }
        end
        read = [@deck.loaded, @deck.following].compact.map { |one| one.material.fill }
        read.any?
      end

      # The running order or what is in it has changed.
      def renew = @opener.later(:renew) { bring_up_to_date }

      # @return [Array<Hash>] key of each item, and whether it was played
      def told = @config["items"].map { |item| { "key" => item["key"], "played" => @played.include?(item["key"]) } }

      private

      # @raise [Invalid] when it cannot be opened, or a song plays
      def exchange(item)
        loaded = ready?(item) ? @next : opened(item)
        previous = @deck.loaded
        begin
          @deck.load(loaded)
        rescue Invalid
          loaded.material.stock.close unless loaded.equal?(@next)
          raise
        end
        drop_next(:opening)
        let_go(previous)
      end

      # A pause before the next song is somebody's wish, and goes on.
      def bring_up_to_date
        drop_next(:opening) unless @next && current?(@next)
        again = @deck.loaded
        exchange(find(again.item)) if again && !@deck.playing? && @deck.state != :pausing && find(again.item) && !current?(again)
        make_ready
      rescue Invalid => e
        @deck.follow_with(nil)
        @problem = e.message
      end

      # Songs that have come to their end.
      def settle
        @settling = false
        over = Array.new(@ended.size) { @ended.pop }
        @played = (@played | over.map(&:item)).last(1000)
        @over, closed = [*@over, *over].partition { |loaded| loaded.equal?(@deck.loaded) } # in a pause it is still on
        closed.each { |loaded| let_go(loaded) }
        make_ready
      end

      # What comes after the song that is on.
      def make_ready
        current = @deck.loaded&.item
        at = @config["items"].index { |item| item["key"] == current }
        following = at && @config["items"][at + 1]
        @problem = nil
        return drop_next unless following
        return if ready?(following)

        drop_next(:opening)
        @next = opened(following)
        @deck.follow_with(@next)
      rescue Invalid => e
        @deck.follow_with(nil)
        @problem = e.message
      end

      # @param item [Hash] of the running order
      def ready?(item) = !@next.nil? && @next.item == item["key"] && current?(@next)

      # Whether a song is still as the running order has it.
      def current?(loaded)
        item = find(loaded.item)
        !item.nil? && loaded.song.id == item["song"] && loaded.tonight == Order.tonight(item) && (item["version"].nil? || item["version"] == loaded.song.version)
      end

      # What follows may have begun just now.
      # @param instead [:opening, nil] what the deck is told of what follows
      def drop_next(instead = nil)
        @deck.follow_with(instead)
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
