# frozen_string_literal: true

module Loomshuttle
  module Signal
    # All joins, indexed both ways. Built once for a show and never changed.
    class Graph
      NONE = [].freeze

      # @param joins [Array<Join>]
      # @param fixed [Graph, nil] further joins, shared with other graphs
      def initialize(joins, fixed: nil)
        @own = joins.freeze
        @fixed = fixed
        @from = joins.group_by(&:from).freeze
        @into = joins.group_by(&:to).freeze
        freeze
      end

      # @return [Array<Join>]
      def joins = @fixed ? @own + @fixed.joins : @own

      # @return [Array<Join>] joins that leave a point
      def from(point) = both(@from[point], @fixed&.from(point))

      # @return [Array<Join>] joins that arrive at a point
      def into(point) = both(@into[point], @fixed&.into(point))

      # @return [Array<Rig::Point>]
      def points = (@from.keys + @into.keys + (@fixed&.points || NONE)).uniq

      private

      def both(own, fixed)
        return own || NONE if fixed.nil? || fixed.empty?

        own ? own + fixed : fixed
      end
    end
  end
end
