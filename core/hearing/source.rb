# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # A source: its id, and where it enters the desk. Levels count from there, after the preamp, so that they do not depend on the microphone.
    Source = Value.define(:id, :entries) do
      # @param graph [Signal::Graph]
      # @param point [Rig::Point] a socket or a card return
      # @return [Source]
      def self.at(graph, id, point) = new(id: id, entries: self::Walk.entries(graph, point).freeze)
    end

    class Source
      # A point where it enters the mixer, and its delay to there in samples.
      Entry = Value.define(:point, :delay)

      # From a socket to the channels that hear it.
      module Walk
        # @return [Array<Entry>]
        def self.entries(graph, point)
          return [Entry.new(point: point, delay: 0)] if point.card?

          found, open = [], [[point, 0]]
          until open.empty?
            at, delay = open.shift
            graph.from(at).select(&:live).each do |join|
              later = delay + join.delay
              join.to.channel? ? found << Entry.new(point: join.to, delay: later) : open << [join.to, later]
            end
          end
          found
        end
      end
    end
  end
end
