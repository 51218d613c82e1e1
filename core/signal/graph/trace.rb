# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Follows joins downstream or upstream from a point, and lists every path.
    module Trace
      # One way: its joins in the signal's order, and delay in samples over all of it.
      Way = Value.define(:joins, :delay) do
        def self.of(joins) = new(joins: joins.freeze, delay: joins.sum(&:delay))

        # @return [Array<Rig::Point>] from first to last
        def points = joins.empty? ? [] : [joins.first.from] + joins.map(&:to)
      end

      PLANNED = ->(join) { join.kind != :mix }
      LIVE = lambda(&:live)

      # @param graph [Graph]
      # @param point [Rig::Point]
      # @param follow [Proc] which joins to follow; PLANNED skips the mix, LIVE follows only what carries sound now
      # @return [Array<Way>] a path to each reachable end; a loop is followed once
      def self.down(graph, point, follow: PLANNED)
        walk(point, ->(at) { graph.from(at) }, :to, follow).map { |joins| Way.of(joins) }
      end

      # Like down, but towards the sources.
      def self.up(graph, point, follow: PLANNED)
        walk(point, ->(at) { graph.into(at) }, :from, follow).map { |joins| Way.of(joins.reverse) }
      end

      # @return [Array<Rig::Point>] sockets and returns that reach a point; cheaper than up, which lists every path
      def self.sources(graph, point, follow: PLANNED)
        seen = {}
        queue = [point]
        until queue.empty?
          at = queue.shift
          next if seen[at]

          seen[at] = true
          graph.into(at).each { |join| queue << join.from if follow.call(join) }
        end
        seen.keys.select { |at| at != point && graph.into(at).none?(&follow) }
      end

      def self.walk(point, joins_at, far_end, follow)
        ways = []
        open = [[point, [], { point => true }]]
        until open.empty?
          at, way, seen = open.pop
          nexts = joins_at.call(at).select { |join| follow.call(join) && !seen[join[far_end]] }
          ways << way if nexts.empty? && !way.empty?
          nexts.reverse_each { |join| open << [join[far_end], way + [join], seen.merge(join[far_end] => true)] }
        end
        ways
      end
      private_class_method :walk
    end
  end
end
