# frozen_string_literal: true

module Loomshuttle
  module Timing
    # When delay speakers are heard relative to the main ones, at the position of their listeners.
    module SpeakerDelays
      # One delayed speaker.
      #   output    number of the desk's output          at         the listener where it counts, or nil: at the speaker itself
      #   main_m, speaker_m   metres from there to the main speaker that is heard first, and to this one
      #   now, wanted         samples of delay: as set, and so that it is heard as late as the show wants
      #   late_ms   milliseconds that it is later than wanted; negative: earlier
      #   possible  whether the desk's outputs have such a delay
      Zone = Value.define(:output, :at, :main_m, :speaker_m, :now, :wanted, :late_ms, :possible)

      class << self
        # @param show [Settings::Show]
        # @return [Array<Zone>] empty if no main speaker has a position
        def zones(show)
          placed = show.outputs.values.select { |output| output.speaker && output.x && output.y }
          mains, others = placed.partition { |output| output.speaker == "main" }
          mains.empty? ? [] : others.map { |output| zone(show, output, mains) }
        end

        private

        def zone(show, output, mains)
          speed, rate = Air.speed(show.setup.temperature), show.rate
          listener = nearest(show, output)
          spot = listener&.place || [output.x, output.y]
          first = mains.min_by { |main| (metres(main, spot) / speed) + main.delay.fdiv(rate) }
          own = metres(output, spot)
          wanted = (metres(first, spot) / speed) + first.delay.fdiv(rate) - (own / speed) + (show.setup.later_ms / 1000.0)
          samples = [(wanted * rate).round, 0].max
          Zone.new(output: output.number, at: listener&.number, main_m: metres(first, spot), speaker_m: own, now: output.delay, wanted: samples,
                   late_ms: (output.delay.fdiv(rate) - wanted) * 1000, possible: samples <= show.profile.mixing.longest_delay(rate))
        end

        # Of those who hear it and have a place.
        def nearest(show, output)
          show.listeners.values.select { |one| one.place && one.outlets.include?(output.point.name) }.min_by { |one| metres(output, one.place) }
        end

        def metres(output, spot) = Math.hypot(output.x - spot.first, output.y - spot.last)
      end
    end
  end
end
