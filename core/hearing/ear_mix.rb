# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # How a listener would hear captured lanes, to listen to a take with their ears: for each lane and ear the gains and delays of all paths after
    # the preamp.
    module EarMix
      # @param survey [Survey]   @param listener [Integer]   @param lanes [Array<Integer>] card sends
      # @return [Hash{Integer=>Array(Array, Array)}] card send => for left and right, [delay in samples, amplitude] of each path; a lane that carries no
      #   channel has none
      # @raise [Invalid] when there is no such listener
      def self.of(survey, listener, lanes)
        sides = survey.sides(listener)
        entries = lanes.filter_map { |lane| survey.show.sends[lane]&.source&.then { |source| [lane, source.at("channel-in")] if source.channel? } }.to_h
        board = Board.of(survey.graph, survey.levels, entries.values.uniq)
        lanes.to_h { |lane| [lane, sides.map { |points| entries[lane] ? ways(board, points, entries[lane]) : [] }] }
      end

      def self.ways(board, points, entry)
        points.group_by { |point| board.delay(point) }.transform_values { |same| same.sum { |point| board.amplitude(point, entry) } }.reject { |_, amplitude| amplitude.zero? }.to_a
      end
      private_class_method :ways
    end
  end
end
