# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # What a listener hears, taken from card sends: from sends with the same source as their outputs, if there is one for each ear, so that the real
    # sound of the desk is heard. Otherwise it is computed from the channels.
    module Carried
      Way = Value.define(:lane, :side, :late, :amplitude)

      class << self
        # @param survey [Survey]   @param listener [Integer]
        # @return [Array(String, Array<Way>)] "outputs" or "channels", and the paths
        # @raise [Invalid] when there is no such listener
        def of(survey, listener)
          direct = survey.sides(listener).each_with_index.flat_map { |points, side| points.map { |point| lane_of(survey, point)&.with(side: side) } }
          return ["outputs", direct] if direct.any? && direct.none?(&:nil?)

          ["channels", computed(survey, listener)]
        end

        private

        # A send that takes the mix where the output takes it, with the output's own delay, trim, mute and polarity.
        def lane_of(survey, outlet)
          show = survey.show
          item = outlet.output? ? show.outputs[outlet.number] : show.personal_lanes[outlet.number]
          point = item && show.point_of_output(item) or return
          send = show.sends.values.find { |one| one.lane <= show.card_lanes && show.point_of(one) == point } or return
          join = survey.graph.into(outlet).first or return
          Way.new(lane: send.lane, side: 0, late: join.delay, amplitude: amplitude(survey.levels.gain_db(join), join.turned))
        end

        # What nobody knows is silent.
        def amplitude(gain, turned)
          return 0.0 unless gain

          (turned ? -1 : 1) * (10**(gain / 20.0))
        end

        def computed(survey, listener)
          lanes = survey.show.sends.values.select { |send| early?(survey.show, send) }.map(&:lane)
          EarMix.of(survey, listener, lanes).flat_map do |lane, sides|
            sides.each_with_index.flat_map { |ways, side| ways.map { |late, amplitude| Way.new(lane: lane, side: side, late: late, amplitude: amplitude) } }
          end
        end

        # Taken where a channel begins, so that its own way through the mix can be computed.
        def early?(show, send) = send.lane <= show.card_lanes && send.source&.channel? && %w[preamp channel-in].include?(show.tap_of(send))
      end
    end
  end
end
