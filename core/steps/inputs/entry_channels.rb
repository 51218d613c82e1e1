# frozen_string_literal: true

module Loomshuttle
  module Steps
    # The channel for each line of an input list. In a revised list, a line keeps the channel of its name; otherwise it renames the channel in use
    # with its number or socket, unless another line has that name. Other lines get the number in the list, then the next free one. The sides of a
    # pair get an odd channel and the next one.
    class EntryChannels
      # @return [Array<Formats::InputList::Entry>] sides of pairs that ask for an even channel and the next one, and got their neighbours
      attr_reader :moved

      # @param show [Settings::Show]
      # @param entries [Array<Formats::InputList::Entry>] in the order in which they choose
      def initialize(show, entries)
        @show = show
        @entries = entries
        @chosen, @moved = {}, []
        @rights = EntryPairs.of(entries)
        @lefts = @rights.invert
        @mono, @stereo = show.profile.strips.partition { |strip| strip.width == 1 }.map { |strips| strips.map(&:number) }
        @open = show.channels.values.select { |channel| channel.name.empty? && !channel.fixed }.to_h { |channel| [channel.number, true] }
      end

      # @return [Hash{Formats::InputList::Entry=>Integer}] in that order, without the lines for which no channel is left
      def choose
        by_name
        by_known_number
        by_known_socket
        by_odd_number
        by_number
        EntryPairs.in_turn(@entries, @rights).each { |entry| (beside(entry) || free(entry))&.then { |number| take(entry, number) } unless @chosen[entry] }
        @entries.to_h { |entry| [entry, @chosen[entry]] }.compact
      end

      private

      def take(entry, number)
        @chosen[entry] = number
        @open.delete(number)
      end

      def by_name
        named = @show.channels.values.reject { |channel| channel.name.empty? }.group_by { |channel| plain(channel.name) }
        alike = @entries.to_h { |entry| [entry, named.fetch(plain(entry.name), [])] }
        # Of several of one name each line gets its own number first.
        [->(entry, one) { one.number == entry.channel }, ->(_, _) { true }].each do |fits|
          alike.each do |entry, channels|
            channel = channels.find { |one| fits.call(entry, one) } unless @chosen[entry]
            take(entry, channels.delete(channel).number) if channel
          end
        end
      end

      def by_known_number
        @entries.each { |entry| take(entry, entry.channel) if !@chosen[entry] && idle_name?(entry.channel) }
      end

      # The first that hears it; a second one is another treatment of the same.
      def by_known_socket
        hearing = @show.channels.values.select(&:stage).group_by(&:stage)
        @entries.each do |entry|
          next if @chosen[entry] || entry.socket.nil?

          channel = hearing.fetch(entry.socket, []).find { |one| idle_name?(one.number) }
          take(entry, channel.number) if channel
        end
      end

      # @return [Boolean] whether a channel has a name that no line of the list has
      def idle_name?(number)
        channel = @show.channels[number]
        !channel.nil? && !channel.name.empty? && !@chosen.value?(number)
      end

      # A pair on an even channel and the next one moves by one, to channels that nobody else asks for.
      def by_odd_number
        @rights.each do |left, right|
          next unless even?(left, right) && [left, right].none? { |entry| @chosen[entry] }

          start = [left.channel - 1, left.channel + 1].find { |one| [one, one + 1].all? { |number| room?(number, left.channel) } } or next
          [left, right].zip([start, start + 1]) { |entry, number| take(entry, number) }
          @moved.push(left, right)
        end
      end

      def even?(left, right) = left.channel&.even? && right.channel == left.channel + 1

      # @param start [Integer] the even channel that a pair asks for
      def room?(number, start)
        @open[number] && mono?(number) && (number.between?(start, start + 1) || @entries.none? { |entry| entry.channel == number })
      end

      def mono?(number) = @show.profile.strip(number).width == 1

      def by_number
        @entries.each { |entry| take(entry, entry.channel) if entry.channel && @open[entry.channel] && !@chosen[entry] }
      end

      def plain(name) = name.downcase.gsub(/[^[:alnum:]]+/, " ").strip

      # The right side of a pair goes beside its left.
      def beside(entry)
        number = @chosen[@lefts[entry]] if @lefts.key?(entry)
        number + 1 if number&.odd? && @open[number + 1]
      end

      def free(entry)
        @mono.shift until @mono.empty? || @open[@mono.first]
        start = @mono.find { |number| number.odd? && @open[number] && @open[number + 1] } if @lefts.value?(entry)
        start || @mono.first || @stereo.find { |number| @open[number] }
      end
    end
  end
end
