# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Exactly one device must lead the clock. With none or two, links click and drop out.
    module ClockLeader
      def self.findings(context)
        leaders = Settings::Clock.leaders(context.show)
        return [] if leaders.size == 1

        [Finding.new(id: "clock-leader", check: "clock-leader", severity: Finding::BLOCKS, sentence: sentence(leaders.map { |device| Settings::Clock.name(device) }),
                     path: [], at: [], fix: Settings::Clock.lead(context.show, "desk"))]
      end

      def self.sentence(names)
        return "No device leads the clock." if names.empty?

        "#{names[..-2].join(', ')} and #{names.last} lead the clock; only one may.".sub(/\A./, &:upcase)
      end
      private_class_method :sentence
    end
  end
end
