# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Sorts points so that each comes after all that feed it.
    module Order
      # @param starts [Array<Rig::Point>]
      # @yieldparam point [Rig::Point] each reachable point, once
      # @yieldreturn [Array<Rig::Point>] the points it feeds
      # @return [Array<Rig::Point>]
      def self.from(starts)
        done, sorted = {}, []
        starts.each do |start|
          open = [[start, false]]
          until open.empty?
            point, leaving = open.pop
            next sorted << point if leaving
            next if done[point]

            done[point] = true
            open << [point, true]
            yield(point).each { |to| open << [to, false] unless done[to] }
          end
        end
        sorted.reverse
      end
    end
  end
end
