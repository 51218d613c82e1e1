# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Monitoring through the computer with more than about 10 ms of latency disturbs players (common practice, no published source).
    module SlowMonitoring
      LIMIT_MS = 10

      def self.findings(context)
        show = context.show
        return [] unless show.setup.monitoring == "computer"

        total = Timing::Latency.round_trip(buffer: show.setup.buffer, rate: show.rate)[:total]
        return [] if total <= LIMIT_MS

        [Finding.new(id: "slow-monitoring", check: "slow-monitoring", severity: Finding::LOOK,
                     sentence: "Monitoring through the computer has #{total.round(1)} ms latency; more than #{LIMIT_MS} ms disturbs players.",
                     path: [], at: [], fix: Settings::Edit.set("Monitor through the desk", "setup/monitoring" => "desk"))]
      end
    end
  end
end
