# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # What all stems of a song give together at each output, added up by whole seconds ahead of what plays: for a block there is one sum to
    # read then, not all stems. `fill` adds up and may run on a thread of its own; `of` never waits.
    class Sums
      # Seconds of what plays, and of where it goes on.
      AHEAD, BEHIND = 2, 2

      # @param stock [Stock]
      def initialize(stock)
        @stock = stock
        @feeds, @sums = {}, {}.freeze
      end

      # @param feeds [Hash{Integer, String=>Array<Songs::Feed>}] by their source, from now on; sums of others count no more
      def feeds=(feeds)
        @feeds = feeds.select { |source, _| source.is_a?(Integer) }.freeze
      end

      # Adds up one second. @return [Boolean] whether there was something to do
      def fill
        feeds, wanted = @feeds, @stock.soon(AHEAD, BEHIND)
        kept = @sums.select { |second, (made_of, _)| made_of.equal?(feeds) && wanted.include?(second) }
        second = wanted.find { |one| !kept.key?(one) && @stock.piece(one) }
        kept[second] = [feeds, sum(@stock.piece(second), feeds)] if second
        @sums = kept.freeze # as a whole, so that nobody reads what is being changed
        !second.nil?
      end

      # @return [Array<Numo::SFloat>, nil] [outputs, frames] each, one after the other: no more outputs than anything goes to; nil where it is not at hand
      def of(from, frames)
        feeds, sums, size = @feeds, @sums, @stock.size
        return if from.negative?

        ((from / size)..((from + frames - 1) / size)).map do |second|
          made_of, sum = sums[second]
          return nil unless made_of.equal?(feeds) && sum

          start = second * size
          sum[true, [from - start, 0].max...[from + frames - start, size].min]
        end
      end

      private

      # In the order in which Mix adds, so that it is the same to the bit.
      def sum(piece, feeds)
        sum = Numo::SFloat.zeros(feeds.values.flatten.map(&:output).max || 1, @stock.size)
        feeds.each do |id, of_stem|
          stem = piece[id] or next
          of_stem.each { |feed| Mix.feed_into(sum, stem, feed, 0) }
        end
        sum
      end
    end
  end
end
