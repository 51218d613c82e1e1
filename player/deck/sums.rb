# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Player
    # The sum of all stems for each output, computed a second at a time before it plays, so that a block reads one sum instead of every stem. `fill`
    # does the work and may run on its own thread; `of` never waits.
    class Sums
      # Seconds from where the song is, and from where it continues after this section.
      AHEAD, BEHIND = 2, 2

      # @param stock [Stock]
      def initialize(stock)
        @stock = stock
        @feeds, @sums = {}, {}.freeze
      end

      # Discards sums made for other feeds.
      # @param feeds [Hash{Integer, String=>Array<Songs::Feed>}] by source
      def feeds=(feeds)
        @feeds = feeds.select { |source, _| source.is_a?(Integer) }.freeze
      end

      # Adds up one second. @return [Boolean] whether there was anything to do
      def fill
        feeds, wanted = @feeds, @stock.soon(AHEAD, BEHIND)
        kept = @sums.select { |second, (made_of, _)| made_of.equal?(feeds) && wanted.include?(second) }
        second, piece = (wanted - kept.keys).map { |one| [one, @stock.piece(one)] }.find(&:last)
        kept[second] = [feeds, sum(piece, feeds)] if piece
        @sums = kept.freeze # replaced as a whole, since another thread reads it
        !piece.nil?
      end

      # @return [Array<Numo::SFloat>, nil] consecutive parts of [outputs, frames], up to the highest output in use; nil if no sum is ready
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

      # Adds in the same order as Mix, so the result is the same to the bit.
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
