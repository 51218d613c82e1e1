# frozen_string_literal: true

module Loomshuttle
  module Steps
    # The channel for each line of an input list. In a revised list, a line keeps the channel of its name; otherwise it renames the channel in use
    # with its number or socket, unless another line has that name. Other lines get the number in the list, then the next free one. The sides of a
    # pair get an odd channel and the next one.
    class EntryChannels
      # @param show [Settings::Show]
      # @param entries [Array<Formats::InputList::Entry>]
      # @return [Hash{Formats::InputList::Entry=>Integer}] in list order, without the lines for which no channel is left
      def self.choose(show, entries) = new(show, entries).choose

      def initialize(show, entries)
        @show = show
        @entries = entries
        @chosen = {}
        @rights = EntryPairs.of(entries)
        @lefts = @rights.invert
        @mono, @stereo = show.profile.strips.partition { |strip| strip.width == 1 }.map { |strips| strips.map(&:number) }
        @open = show.channels.values.select { |channel| channel.name.empty? && !channel.fixed }.to_h { |channel| [channel.number, true] }
      end

      def choose
        by_name
        by_known_number
        by_known_socket
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
