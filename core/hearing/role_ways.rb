# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Which sources carry a role of playback: the channels on the sockets of its outputs.
    module RoleWays
      class << self
        # @param survey [Survey]
        # @return [Hash{Integer=>Array<String>}] number of a role => ids of the sources that carry it
        def of(survey)
          by_entry = survey.sources.each_with_object({}) { |named, found| named.source.entries.each { |entry| (found[entry.point.base] ||= []) << named.id } }
          survey.show.roles.transform_values { |role| role.outputs.flat_map { |output| points(survey.graph, output).flat_map { |point| by_entry.fetch(point.base, []) } }.uniq }
        end

        # @param graph [Signal::Graph]   @param roles [Array<Settings::PlaybackRole>]
        # @return [Hash{Rig::Point=>Array<Settings::PlaybackRole>}] by the point where they enter a channel
        def entering(graph, roles)
          roles.each_with_object({}) { |role, found| role.outputs.each { |output| points(graph, output).each { |point| (found[point.base] ||= []) << role } } }
        end

        private

        # Where what comes out at an output enters the desk's channels.
        def points(graph, output) = graph.from(Rig::Point.playback(output)).map(&:to).flat_map { |socket| Source::Walk.entries(graph, socket).map(&:point) }
      end
    end
  end
end
