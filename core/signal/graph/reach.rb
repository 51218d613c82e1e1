# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The level of a source at every point: the amplitudes of all live paths, summed. Paths of equal delay add as amplitudes, as they do inside one
    # desk.
    module Reach
      # @param graph [Graph]
      # @param levels [Levels] an unknown level counts as silence
      # @param source [Rig::Point] where the signal enters with amplitude 1
      # @return [Hash{Rig::Point=>Float}] point => amplitude; contains only points that the signal reaches
      def self.amplitudes(graph, levels, source)
        found = Hash.new(0.0).merge(source => 1.0)
        Order.from([source]) { |point| live(graph, point).map(&:to) }.each do |point|
          live(graph, point).each { |join| found[join.to] += found[point] * amplitude(levels.gain_db(join)) * (join.turned ? -1 : 1) }
        end
        found.reject { |_, amplitude| amplitude.zero? }
      end

      class << self
        private

        def amplitude(decibels) = decibels ? 10**(decibels / 20.0) : 0.0

        # The recorder is not a way through: what it plays is a take.
        def live(graph, point) = graph.from(point).select { |join| join.live && join.kind != :file }
      end
    end
  end
end
