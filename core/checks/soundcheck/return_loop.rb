# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A channel that sends a return to the very track that plays it. Monitored through the recorder, this feeds back.
    module ReturnLoop
      def self.findings(context)
        show = context.show
        show.tracks.values.filter_map do |track|
          looping = track.inputs.zip(track.outputs).find { |input, output| input && output && own?(show, input, output) }
          finding(show, track, *looping) if looping
        end
      end

      class << self
        private

        # Only a tap behind the place where the return comes in sends it on, and only where the return is the source now.
        def own?(show, input, output)
          send = show.sends[input]
          channel = show.channel_at(send.source)
          channel && show.tap_of(send) != "preamp" && hears(channel) == Rig::Point.card_return(output)
        end

        def hears(channel) = channel.position == "take" ? channel.take : channel.stage

        def finding(show, track, input, output)
          send = show.sends[input]
          back = Rig::Point.card_return(output)
          Finding.new(id: "return-loop/#{track.number}", check: "return-loop", severity: Finding::BLOCKS,
                      sentence: "Loop: #{show.title_of(track)} plays to card return #{output}, which feeds #{Rig::Label.for(send.source).downcase} " \
                                "and card send #{input} back into the track.",
                      path: [back, send.source.at("channel-in"), Rig::Point.card_send(input), Rig::Point.track(track.number, "in")],
                      at: [back], fix: fix(show, track, send))
        end

        # On take the preamp is the way out of the loop; a channel that always hears the card must not be played to.
        def fix(show, track, send)
          channel = show.channel_at(send.source)
          if channel.position == "take" && show.profile.taps.include?("preamp")
            return Settings::Edit.set("Tap #{channel.title} at the preamp",
                                      "send/#{send.lane}/tap" => "preamp")
          end

          Settings::Edit.set("Remove the returns of #{show.title_of(track)}", "track/#{track.number}/outputs" => [])
        end
      end
    end
  end
end
