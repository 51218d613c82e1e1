# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Hearing
    # The paths through a desk as arrays: its points, sorted so that each comes after all that feed it, and what feeds each. Built once for a graph.
    # Their levels are in Board.
    class DeskWays
      # What arrives at a point: places of the points that it comes from, of each join its level slot (-1: none), own gain and sign as an
      # amplitude; and where its joins begin among all joins.
      Inflow = Value.define(:from, :slots, :factors, :joins, :at)

      # @return [Array<Rig::Point>] in order
      attr_reader :points
      # @return [Hash{Rig::Point=>Integer}] their places
      attr_reader :places
      # @return [Array<Inflow, nil>] of each point, in their order; nil where sound enters
      attr_reader :inflows
      # @return [Array<Array<Integer>>] of each point, the places of those that it feeds
      attr_reader :feeds
      # @return [Array<Integer, nil>] of each point, the number of the one entry whose sound it carries; nil where several come together
      attr_reader :alone

      # @param graph [Signal::Graph]
      # @param entries [Array<Rig::Point>] where sound enters the mixer: channel lanes and card returns
      def initialize(graph, entries)
        @graph = graph
        @arriving = {}
        @points = Signal::Order.from(entries) { |point| onward(point) }.freeze
        @places = @points.each.with_index.to_h.freeze
        @joins = 0
        @inflows = @points.map { |point| @arriving[point]&.then { |joins| inflow(joins) } }.freeze
        @slots, @factors = Numo::Int32[*of_all(&:slots)], Numo::DFloat[*of_all(&:factors)]
        @alone = alone_of(entries).freeze
        @feeds = feeds_of
        @by_slot = by_slot
        @tails = {}
        freeze
      end

      # @param gains [Numo::DFloat] amplitude of each level slot, with a 1 appended (place -1)
      # @return [Array<Float>] amplitudes of all joins, ordered as Inflow#at
      def gains(gains) = (@factors * gains[@slots]).to_a

      # Only outputs have a delay, and each is fed by one point.
      # @param point [Rig::Point]
      # @return [Integer] samples
      def delay(point)
        inflow = @places[point]&.then { |place| @inflows[place] }
        (inflow ? inflow.joins.map(&:delay).max : 0) + (@tails[point] ||= tail(point))
      end

      # @param slots [Array<Integer>] slots of the levels that changed
      # @return [Array<Integer>] places of all points downstream of them, upstream ones first
      def behind(slots)
        open = slots.flat_map { |slot| @by_slot.fetch(slot, NONE) }
        seen = {}
        until open.empty?
          place = open.pop
          next if seen[place]

          seen[place] = true
          open.concat(@feeds[place])
        end
        seen.keys.sort
      end

      NONE = [].freeze
      private_constant :NONE

      private

      # Where sound goes on to, and by which joins; the recorder is not a way through, and what leaves the desk is heard there.
      def onward(point)
        return NONE if point.output? || point.kind == "personal"

        @graph.from(point).filter_map do |join|
          to = join.to
          next unless join.live && join.kind != :file && to.device == "desk"

          (@arriving[to] ||= []) << join
          to
        end
      end

      # Samples from an output to where it leaves first: a socket of the desk, or of a box.
      def tail(point)
        return 0 unless point.output?

        @graph.from(point).select(&:live).map { |join| join.delay + @graph.from(join.to).select(&:live).map(&:delay).min.to_i }.min || 0
      end

      def inflow(joins)
        at = @joins
        @joins += joins.size
        Inflow.new(from: joins.map { |join| @places[join.from] }, slots: joins.map { |join| join.level || -1 }, factors: joins.map { |join| factor(join) }, joins: joins, at: at)
      end

      def factor(join)
        amplitude = join.gain_db.zero? ? 1.0 : 10**(join.gain_db / 20.0)
        join.turned ? -amplitude : amplitude
      end

      def of_all(&) = @inflows.compact.flat_map(&)

      # Along the taps of a channel nothing joins it.
      def alone_of(entries)
        entering = entries.each.with_index.to_h
        @points.each_with_index.with_object([]) do |(point, place), found|
          from = @inflows[place]&.from
          found << (from.nil? ? entering[point] : (found[from.first] if from.size == 1 && !entering.key?(point)))
        end
      end

      def by_slot
        @inflows.each_with_index.with_object({}) do |(inflow, place), found|
          inflow&.slots&.each { |slot| (found[slot] ||= []) << place unless slot.negative? }
        end
      end

      def feeds_of
        feeds = Array.new(@points.size) { [] }
        @inflows.each_with_index { |inflow, to| inflow&.from&.each { |from| feeds[from] << to } }
        feeds.each(&:freeze).freeze
      end
    end
  end
end
