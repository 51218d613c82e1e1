# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Card returns that are reserved for playback. A stream has one sender, so whatever the recorder plays there is not heard.
    module PlaybackReturns
      class << self
        def findings(context)
          show = context.show
          taken = show.playback_returns.map(&:number)
          return [] if taken.empty?

          tracks(show, taken) + own_mix(show, taken)
        end

        private

        def tracks(show, taken)
          show.tracks.values.select { |track| track.outputs.intersect?(taken) }.map do |track|
            lanes = track.outputs & taken
            finding("track/#{track.number}", "#{show.title_of(track)} plays to card return #{lanes.join(' and ')}, which is reserved for playback.",
                    Steps::Completed.edit(show, "Remove the returns of #{show.title_of(track)}", "track/#{track.number}/outputs" => []))
          end
        end

        def own_mix(show, taken)
          lanes = show.setup.own_mix & taken
          return [] if lanes.empty?

          [finding("own-mix", "The recorder mix leaves on card return #{lanes.join(' and ')}, which is reserved for playback.",
                   Steps::Completed.edit(show, "Turn off the recorder mix", "setup/own_mix" => []))]
        end

        def finding(id, sentence, fix)
          Finding.new(id: "playback-returns/#{id}", check: "playback-returns", severity: Finding::BLOCKS, sentence: sentence, path: [], at: [], fix: fix)
        end
      end
    end
  end
end
