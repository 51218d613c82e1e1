# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A delay speaker that is heard too early or too late for its position.
    module DelayGeometry
      # Milliseconds that nobody hears (common practice, no published source).
      OFF_BY = 1.0

      def self.findings(context)
        Timing::SpeakerDelays.zones(context.show).select { |zone| zone.late_ms.abs > OFF_BY }.map { |zone| finding(context.show, zone) }
      end

      class << self
        private

        def finding(show, zone)
          outlet = Rig::Point.desk("output", zone.output)
          who = zone.at ? "#{show.listeners[zone.at].title} hears the speaker on output #{zone.output}" : "The speaker on output #{zone.output} is heard"
          Finding.new(id: "delay-geometry/#{zone.output}", check: "delay-geometry", severity: Finding::LOOK,
                      sentence: "#{who} #{off(zone.late_ms)} relative to the main speakers, #{format('%.1f', zone.main_m)} m away.", path: [outlet], at: [], fix: fix(show, zone))
        end

        def off(late) = "#{format('%.1f', late.abs)} ms too #{late.negative? ? 'early' : 'late'}"

        def fix(show, zone)
          return unless zone.possible

          Steps::Completed.edit(show, "Delay output #{zone.output} by #{format('%.1f', Timing::Latency.ms(zone.wanted, show.rate))} ms",
                                "output/#{zone.output}/delay" => zone.wanted)
        end
      end
    end
  end
end
