# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A channel in use without a stage socket. An armed track behind it would record silence.
    module ChannelWithoutSocket
      def self.findings(context)
        show = context.show
        show.channels.values.select { |channel| channel.stage.nil? && !channel.name.empty? }.map { |channel| finding(show, channel) }
      end

      class << self
        private

        def finding(show, channel)
          points = show.profile.channel_points(channel.number)
          armed = armed_track(show, points)
          sentence = "#{channel.title} (channel #{channel.number}) has no socket#{", so armed track #{armed.number} would write silence" if armed}."
          Finding.new(id: "channel-without-socket/#{channel.number}", check: "channel-without-socket", severity: armed ? Finding::BLOCKS : Finding::LOOK,
                      sentence: sentence, path: [points.first.at("preamp"), *(Rig::Point.track(armed.number, "in") if armed)], at: points, fix: fix(show, channel))
        end

        def armed_track(show, points)
          lanes = show.sends.values.select { |send| points.include?(send.source) }.map(&:lane)
          show.tracks.values.find { |track| track.armed && track.inputs.intersect?(lanes) }
        end

        # The source of the channel's own number if it is free, else the first free one.
        def fix(show, channel)
          FreeSocket.fix(show, channel) { |free| free.find { |one| Rig::Point.of(one.settings.values.first).number == channel.number } }
        end
      end
    end
  end
end
