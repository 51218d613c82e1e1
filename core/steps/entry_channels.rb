# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Which channel each line of an input list gets: one of its own name, then the number that the list says, then the
    # next free one; both sides of a pair together, the left on an odd number.
    class EntryChannels
      # @param show [Settings::Show]
      # @param entries [Array<Formats::InputList::Entry>]
      # @return [Hash{Formats::InputList::Entry=>Integer}] in the list's order
      # @raise [Invalid] when channels run out
      def self.choose(show, entries) = new(show, entries).choose

      # "Accordion L" and, next in the list, "Accordion R".
      # @return [Boolean] whether a pair starts at a place of the list
      def self.pair_starts?(entries, at)
        one, other = entries[at].name, entries[at + 1]&.name.to_s
        one.match?(/\s(l|left)\z/i) && other.match?(/\s(r|right)\z/i) && one.sub(/\s\S+\z/, "") == other.sub(/\s\S+\z/, "")
      end

      def initialize(show, entries)
        @show = show
        @entries = entries
        @chosen = {}
        @mono = show.profile.strips.select { |strip| strip.width == 1 }.map(&:number)
        @open = show.channels.values.select { |channel| channel.name.empty? && !channel.fixed }.to_h { |channel| [channel.number, true] }
      end

      def choose
        by_name
        by_number
        @entries.each_index { |at| take(@entries[at], beside(at) || free(at)) unless @chosen[@entries[at]] }
        @entries.to_h { |entry| [entry, @chosen[entry]] }
      end

      private

      def take(entry, number)
        @chosen[entry] = number
        @open.delete(number)
      end

      def by_name
        named = @show.channels.values.reject { |channel| channel.name.empty? }.group_by { |channel| plain(channel.name) }
        @entries.each do |entry|
          channel = named[plain(entry.name)]&.shift
          take(entry, channel.number) if channel
        end
      end

      def by_number
        @entries.each { |entry| take(entry, entry.channel) if entry.channel && @open[entry.channel] && !@chosen[entry] }
      end

      def plain(name) = name.downcase.gsub(/[^[:alnum:]]+/, " ").strip

      # The right side of a pair goes beside its left.
      def beside(at)
        return unless at.positive? && EntryChannels.pair_starts?(@entries, at - 1)

        number = @chosen[@entries[at - 1]]
        number + 1 if number.odd? && @open[number + 1]
      end

      def free(at)
        @mono.shift until @mono.empty? || @open[@mono.first]
        start = @mono.find { |number| number.odd? && @open[number] && @open[number + 1] } if EntryChannels.pair_starts?(@entries, at)
        start || @mono.first or
          raise Invalid.new("#{@show.profile.name} has #{@show.channels.size} channels, and the list has more inputs than are free.", where: "channels")
      end
    end
  end
end
