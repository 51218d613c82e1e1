# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A channel on take while its preamp still carries the stage: a track armed at the preamp would record the wrong signal. One finding for all
    # such channels, since a flip affects many.
    module StagePreampOnTake
      def self.findings(context)
        show = context.show
        wrong = context.strands.select { |strand| wrong?(show, strand) }
        return [] if wrong.empty?

        channels = wrong.map { |strand| show.channel_at(strand.channel) }.uniq
        fix = Settings::Edit.set("Tap at channel in while on take", wrong.to_h { |strand| ["send/#{strand.send}/tap", "channel-in"] })
        [Finding.new(id: "stage-preamp-on-take", check: "stage-preamp-on-take", severity: Finding::LOOK,
                     sentence: "#{sentence(channels)} on take, but armed at the preamp: a capture now records the stage, not the take.",
                     path: wrong.flat_map { |strand| [strand.channel.at("preamp"), strand.send_point] },
                     at: wrong.map(&:send_point), fix: fix)]
      end

      class << self
        private

        def wrong?(show, strand)
          channel = show.channel_at(strand.channel)
          channel && channel.position == "take" && strand.tap == "preamp" && strand.track && show.tracks[strand.track].armed
        end

        def sentence(channels) = channels.size == 1 ? "#{channels.first.title} is" : "#{channels.size} channels are"
      end
    end
  end
end
