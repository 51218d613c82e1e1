# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A track for soundcheck must be tapped at the preamp. From a later tap its take would be processed twice.
    module NotAtPreamp
      def self.findings(context)
        context.strands.select { |strand| late?(context.show, strand) }.map { |strand| finding(context.show, strand) }
      end

      class << self
        private

        # A channel on take is the other rule's business: its preamp still carries the stage.
        def late?(show, strand)
          channel = show.channel_at(strand.channel)
          channel && strand.track && !strand.home.empty? && channel.position == "stage" && channel.stage &&
            !channel.card_fed? && strand.tap != "preamp" && show.profile.taps.include?("preamp")
        end

        def finding(show, strand)
          channel = show.channel_at(strand.channel)
          tap = Rig::Label::TAPS.fetch(strand.tap)
          effect = strand.tap == "channel-in" ? "would follow the flip" : "would be processed twice at soundcheck"
          Finding.new(id: "not-at-preamp/#{strand.send}", check: "not-at-preamp", severity: Finding::LOOK,
                      sentence: "#{channel.title} is tapped at #{tap}, so its take #{effect}.",
                      path: [strand.socket, strand.channel.at(strand.tap), strand.send_point, Rig::Point.track(strand.track, "in")].compact,
                      at: [strand.send_point],
                      fix: Settings::Edit.set("Tap #{channel.title} at the preamp", "send/#{strand.send}/tap" => "preamp"))
        end
      end
    end
  end
end
