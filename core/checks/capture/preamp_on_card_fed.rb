# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A channel with a card return as its source (a backing track) has no signal at its preamp. It has to be tapped at channel in.
    module PreampOnCardFed
      def self.findings(context)
        show = context.show
        show.sends.values.select { |send| fed_by_card?(show, send) && show.tap_of(send) == "preamp" }.map { |send| finding(show, send) }
      end

      class << self
        private

        def fed_by_card?(show, send) = show.channel_at(send.source)&.card_fed?

        def finding(show, send)
          channel = show.channel_at(send.source)
          Finding.new(id: "preamp-on-card-fed/#{send.lane}", check: "preamp-on-card-fed", severity: Finding::BLOCKS,
                      sentence: "#{channel.title} has #{Rig::Label.for(channel.stage).downcase} as stage source, but is tapped at the preamp, where it is silent.",
                      path: [channel.stage, send.source.at("preamp"), Rig::Point.card_send(send.lane)], at: [Rig::Point.card_send(send.lane)],
                      fix: Settings::Edit.set("Tap #{channel.title} at channel in", "send/#{send.lane}/tap" => "channel-in"))
        end
      end
    end
  end
end
