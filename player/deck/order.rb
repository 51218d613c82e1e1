# frozen_string_literal: true

module Loomshuttle
  module Player
    # The running order at the deck: the loaded song, the next song, and what was played. The content of the running order is in OrderItems. Only
    # the opener opens songs (Opener), so stop works at once while one is being opened.
    class Order
      # @return [String, nil] why the next song cannot be played
      attr_reader :problem

      # @param deck [Deck]   @param library [SongReader]   @param config [Config]
      # @param opener [Opener]
      def initialize(deck, library, config, opener: Opener.new)
        @deck, @opener = deck, opener
        @items = OrderItems.new(library, config)
        @played = []
        @ended = Queue.new
      end

      # Loads a song and waits until it can start.
      # @param key [Integer] of an item
      # @raise [Invalid]
      def put_on(key)
        item = @items.fetch(key)
        @opener.wait { exchange(item) }
        @opener.later(:make_ready) { make_ready }
      end

      # Loads a song without waiting. One that cannot be opened is reported as a problem.
      # @param key [Integer] of an item
      # @yield once it is loaded
      # @raise [Invalid] if there is no such item
      def put_on_later(key)
        item = @items.fetch(key)
        @opener.later(:put_on) do
          exchange(item)
          yield if block_given?
          make_ready
        rescue Invalid => e
          @problem = e.message
        end
      end

      # Called by the clock's thread when a song has ended.
      # @param loaded [Loaded]
      def ended(loaded) = @ended << loaded

      # Reads ahead and prepares the next song.
      # @return [Boolean] whether there was anything to do
      def fill
        unless @ended.empty? || @settling
          @settling = true
          @opener.later(:settle) { settle }
        end
        read = [@deck.loaded, @deck.following].compact.map { |one| one.material.fill }
        read.any?
      end

      # Follows a change of the running order or its songs.
      def renew = @opener.later(:renew) { bring_up_to_date }

      # @return [Array<Hash>] key of each item, and whether it has been played
      def told = @items.keys.map { |key| { "key" => key, "played" => @played.include?(key) } }

      private

      # @raise [Invalid] if it cannot be opened, or a song plays
      def exchange(item)
        loaded = ready?(item) ? @next : @items.open(item)
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
        drop_next(:opening) unless @next && @items.current?(@next)
        again = @deck.loaded
        exchange(@items.find(again.item)) if again && !@deck.playing? && @deck.state != :pausing && @items.find(again.item) && !@items.current?(again)
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
        following = @items.after(@deck.loaded&.item)
        @problem = nil
        return drop_next unless following
        return if ready?(following)

        drop_next(:opening)
        @next = @items.open(following)
        @deck.follow_with(@next)
      rescue Invalid => e
        @deck.follow_with(nil)
        @problem = e.message
      end

      # @param item [Hash] of the running order
      def ready?(item) = !@next.nil? && @next.item == item["key"] && @items.current?(@next)

      # What follows may have begun just now.
      # @param instead [:opening, nil] what the deck is told of what follows
      def drop_next(instead = nil)
        @deck.follow_with(instead)
        let_go(@next) if @next
        @next = nil
      end

      # Files of what is on stay open.
      def let_go(loaded)
        loaded.material.stock.close unless loaded.nil? || loaded.equal?(@deck.loaded)
      end
    end
  end
end
