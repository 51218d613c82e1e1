# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Joins, indexed both ways. Built once for a show and never changed.
    class Graph
      NONE = [].freeze

      # @return [Array<Join>]
      attr_reader :joins

      def initialize(joins)
        @joins = joins.freeze
        @from = joins.group_by(&:from).freeze
        @into = joins.group_by(&:to).freeze
        freeze
      end

      # @return [Array<Join>] joins that leave a point
      def from(point) = @from.fetch(point, NONE)

      # @return [Array<Join>] joins that arrive at a point
      def into(point) = @into.fetch(point, NONE)

      # @return [Array<String>]
      def points = (@from.keys + @into.keys).uniq
    end
  end
end
