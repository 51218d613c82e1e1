# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Hearing
    # How loud everything that enters a desk is at each of its points, by all ways: a row of amplitudes for each point, a column for each place
    # where sound enters. Inside a desk all ways take the same time, so they add as amplitudes, with their sign. A fader that
    # moves is computed anew behind it only.
    class Board
      # @return [DeskWays]
      attr_reader :ways

      # @param graph [Signal::Graph]   @param levels [Signal::Levels]
      # @param entries [Array<Rig::Point>]
      # @return [Board]
      def self.of(graph, levels, entries)
        ways = DeskWays.new(graph, entries)
        new(ways, entries, levels.amplitudes).tap(&:compute)
      end

      # @param gains [Numo::DFloat] amplitude of each level slot, 0 where nobody knows it
      def initialize(ways, entries, gains, amplitudes: nil, counts: nil)
        @ways, @entries, @gains = ways, entries, gains
        @changed = {}
        @columns = entries.each.with_index.to_h
        @entering = entries.each.with_index.to_h { |entry, column| [ways.places.fetch(entry), column] }
        @amplitudes = amplitudes || Numo::DFloat.zeros(ways.points.size, entries.size)
        @counts = counts || Numo::DFloat.zeros(ways.points.size, entries.size)
      end

      # From the beginning.
      def compute
        @entering.each { |place, column| enter(place, column) }
        @ways.inflows.each_index { |place| sum(place) }
      end

      # @param levels [Signal::Levels]
      # @return [Board] with other levels; only what lies behind those that differ is computed
      def with(levels)
        gains = levels.amplitudes
        changed = gains.ne(@gains).where
        return self if changed.empty?

        Board.new(@ways, @entries, gains, amplitudes: @amplitudes.dup, counts: @counts.dup).tap { |board| board.recompute(@ways.behind(changed.to_a)) }
      end

      # @param places [Array<Integer>] in order
      def recompute(places)
        @changed = places.to_h { |place| [place, true] }
        places.each { |place| sum(place) }
      end

      # @return [Boolean] whether what is heard there may be another than on the board that this one was made from
      def changed?(point) = @changed.key?(@ways.places[point])

      # @param point [Rig::Point]   @param entry [Rig::Point]
      # @return [Float] amplitude with its sign; 0 for silence
      def amplitude(point, entry) = at(@amplitudes, point, entry)

      # @param point [Rig::Point]
      # @return [Integer] samples from where sound enters to there; the same for all that does
      def delay(point) = @ways.delay(point)

      # @return [Integer] ways that carry something
      def count(point, entry) = at(@counts, point, entry).to_i

      # @param point [Rig::Point]   @param columns [Numo::Int32, Array<Integer>] of entries
      # @return [Numo::DFloat, nil] amplitudes; nil where nothing comes by
      def row(point, columns) = @ways.places[point]&.then { |place| @amplitudes[place, columns] }

      # @return [Numo::DFloat, nil] numbers of ways, likewise
      def counts(point, columns) = @ways.places[point]&.then { |place| @counts[place, columns] }

      # @return [Integer, nil] column of an entry
      def column(entry) = @columns[entry]

      # @param point [Rig::Point]   @param entry [Rig::Point]
      # @return [Array<Signal::Join>] the way that carries most, from the entry on; empty where there is none
      def loudest(point, entry)
        place, column = @ways.places[point], @columns[entry]
        joins = []
        while place && column && (inflow = @ways.inflows[place])
          parts = (gains_of(inflow) * @amplitudes[inflow.from, column]).abs
          return [] if parts.max.zero?

          best = parts.max_index
          joins.unshift(inflow.joins[best])
          place = inflow.from[best]
        end
        joins
      end

      private

      def at(array, point, entry)
        place, column = @ways.places[point], @columns[entry]
        place && column ? array[place, column] : 0
      end

      def sum(place)
        inflow = @ways.inflows[place] or return
        gains = gains_of(inflow)
        gains.size == 1 ? carry(place, inflow.from.first, gains[0]) : add_up(place, inflow.from, gains)
        @entering[place]&.then { |column| enter(place, column) }
      end

      def enter(place, column)
        @amplitudes[place, column] += 1
        @counts[place, column] += 1
      end

      def carry(place, from, gain)
        @amplitudes[place, true] = @amplitudes[from, true] * gain
        @counts[place, true] = gain.zero? ? 0 : @counts[from, true]
      end

      def add_up(place, from, gains)
        @amplitudes[place, true] = gains.dot(@amplitudes[from, true])
        @counts[place, true] = Numo::DFloat.cast(gains.ne(0)).dot(@counts[from, true])
      end

      def gains_of(inflow) = inflow.factors * @gains[inflow.slots]
    end
  end
end
