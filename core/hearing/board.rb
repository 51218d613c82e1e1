# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Hearing
    # The level of everything that enters a desk, at each of its points, over all paths. Along a channel a point carries one source and has one
    # amplitude; where channels are mixed, it has a row of amplitudes, one column per entry. Inside a desk all paths take the same time, so they
    # add as signed amplitudes. When a fader moves, only the points behind it are recomputed.
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

      # @param gains [Numo::DFloat] amplitude of each level slot, 0 where it is unknown
      # @param like [Board, nil] a board on the same paths whose figures are copied first
      def initialize(ways, entries, gains, like: nil)
        @ways, @entries, @gains = ways, entries, gains
        @joins = ways.gains(gains)
        @changed = {}
        @columns = entries.each.with_index.to_h
        @entering = entries.each.with_index.to_h { |entry, column| [ways.places.fetch(entry), column] }
        # [amplitude, number of ways] of a point that carries one entry, [amplitudes, numbers] of another
        @carried = like ? like.carried.dup : Array.new(ways.points.size)
      end

      # Computes everything.
      def compute = @carried.each_index { |place| sum(place) }

      # @param levels [Signal::Levels]
      # @return [Board] with these levels; recomputes only what lies downstream of a changed one
      def with(levels)
        gains = levels.amplitudes
        changed = gains.ne(@gains).where
        return self if changed.empty?

        Board.new(@ways, @entries, gains, like: self).tap { |board| board.recompute(@ways.behind(changed.to_a)) }
      end

      # @param places [Array<Integer>] of points, upstream ones first
      def recompute(places)
        @changed = places.to_h { |place| [place, true] }
        places.each { |place| sum(place) }
      end

      # @return [Boolean] whether the figures there may differ from those of the board that this one was made from
      def changed?(point) = @changed.key?(@ways.places[point])

      # @param point [Rig::Point]   @param entry [Rig::Point]
      # @return [Float] amplitude, negative if the polarity is inverted; 0 for silence
      def amplitude(point, entry) = at(0, @ways.places[point], @columns[entry])

      # @param point [Rig::Point]
      # @return [Integer] delay in samples from the entries to the point; the same for every entry
      def delay(point) = @ways.delay(point)

      # @return [Integer] number of paths that carry sound
      def count(point, entry) = at(1, @ways.places[point], @columns[entry]).to_i

      # @param point [Rig::Point]
      # @return [Numo::DFloat, nil] amplitudes by entry; nil if no path leads there
      def row(point) = @ways.places[point]&.then { |place| row_at(0, place) }

      # @return [Numo::DFloat, nil] numbers of paths by entry; nil if no path leads there
      def counts(point) = @ways.places[point]&.then { |place| row_at(1, place) }

      # @return [Integer, nil] column of an entry
      def column(entry) = @columns[entry]

      # @param point [Rig::Point]   @param entry [Rig::Point]
      # @return [Array<Signal::Join>] the loudest path, starting at the entry; empty if there is none
      def loudest(point, entry) = strongest(point, entry).first

      # @return [Float] amplitude that arrives by the loudest path alone, without its sign; 0 for silence
      def alone(point, entry) = strongest(point, entry).last

      protected

      attr_reader :carried

      private

      # @return [Array(Array<Signal::Join>, Float)] the loudest path and its amplitude
      def strongest(point, entry)
        place, column = @ways.places[point], @columns[entry]
        return [[], 0.0] unless place && column

        joins, amplitude = [], 1.0
        while (inflow = @ways.inflows[place])
          parts = inflow.from.each_with_index.map { |from, nth| (@joins[inflow.at + nth] * at(0, from, column)).abs }
          return [[], 0.0] if parts.max.zero?

          best = parts.index(parts.max)
          joins.unshift(inflow.joins[best])
          amplitude *= @joins[inflow.at + best].abs
          place = inflow.from[best]
        end
        [joins, amplitude]
      end

      # @param which [0, 1] amplitude or number of ways
      def at(which, place, column)
        return 0 unless place && column

        alone = @ways.alone[place] or return @carried[place][which][column]
        alone == column ? @carried[place][which] : 0
      end

      def row_at(which, place)
        return @carried[place][which] unless @ways.alone[place]

        Numo::DFloat.zeros(@entries.size).tap { |row| row[@ways.alone[place]] = @carried[place][which] }
      end

      def sum(place)
        inflow = @ways.inflows[place] or return @carried[place] = [1.0, 1]

        @carried[place] = @ways.alone[place] ? carry(inflow) : add_up(inflow, @entering[place])
      end

      def carry(inflow)
        amplitude, ways = @carried[inflow.from.first]
        gain = @joins[inflow.at]
        [amplitude * gain, gain.zero? ? 0 : ways]
      end

      # @param entering [Integer, nil] column of what enters there as well
      def add_up(inflow, entering)
        amplitudes, ways = Array.new(2) { [0.0] * @entries.size }
        wide = inflow.from.each_with_index.filter_map do |from, nth|
          gain = @joins[inflow.at + nth]
          column = @ways.alone[from] or next [from, gain]
          add(amplitudes, ways, column, from, gain)
        end
        add(amplitudes, ways, entering) if entering
        rows(amplitudes, ways, wide.reject { |_, gain| gain.zero? })
      end

      # @return [nil]
      def add(amplitudes, ways, column, from = nil, gain = 1.0)
        amplitude, count = from ? @carried[from] : [1.0, 1]
        return if gain.zero?

        amplitudes[column] += amplitude * gain
        ways[column] += count
        nil
      end

      # @param wide [Array<Array(Integer, Float)>] places of rows, and with what gain they are added
      def rows(amplitudes, ways, wide)
        wide.reduce([Numo::DFloat[*amplitudes], Numo::DFloat[*ways]]) do |(sum, count), (from, gain)|
          [sum + (@carried[from][0] * gain), count + @carried[from][1]]
        end
      end
    end
  end
end
