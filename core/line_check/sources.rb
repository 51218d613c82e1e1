# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # The sources of a show.
    module Sources
      # Taps that carry a channel before anything is done to it.
      RAW = %w[preamp channel-in].freeze

      # Channels with a stage source that have a name or a card send; others only moved along with their block. Channels fed by playback are
      # left out: nobody can be asked to play them.
      # @param show [Settings::Show]
      # @param desk [Hash{String=>Object}] path => value, for settings in which the desk differs from the plan
      # @return [Array<Source>] in patch order
      def self.of(show, desk = {})
        show = Settings::SharedPreamp.settled(show)
        sends = show.sends.values.group_by { |send| show.channel_at(send.source)&.number }
        cabled = show.playback_sockets
        called = show.channels.values.select do |channel|
          channel.stage && !cabled.include?(show.layout.socket_of(channel.stage)) && !(channel.name.empty? && sends[channel.number].nil?)
        end
        called.map { |channel| source(show, channel, sends.fetch(channel.number, []).select { |send| RAW.include?(show.tap_of(send)) }, desk) }
      end

      class << self
        private

        def source(show, channel, sends, desk)
          bare = channel.card_fed? || show.profile.digital?(channel.stage) # without a preamp
          position = desk.fetch("channel/#{channel.number}/position", channel.position)
          meter, at = position == "stage" ? ["desk", meter_of(show, channel)] : past_the_take(show, sends)
          Source.new(number: channel.number, name: channel.name, dye: channel.colour, stage: channel.stage, socket: show.layout.socket_of(channel.stage),
                     meter: meter, at: at, lanes: sends.map { |send| send.lane - 1 }, mic: channel.mic,
                     gain: bare ? nil : desk.fetch("channel/#{channel.number}/gain", channel.gain), preamp: bare ? nil : show.profile.strip(channel.number).preamp,
                     phantom: desk.fetch("channel/#{channel.number}/phantom", channel.phantom))
        end

        def meter_of(show, channel) = show.profile.channel_points(channel.number).map { |point| show.profile.all_channel_points.index(point) }

        # On take the channel's own meter shows the take; a send that is taken at the preamp still hears the stage.
        def past_the_take(show, sends)
          at = sends.select { |send| show.tap_of(send) == "preamp" }.map { |send| send.lane - 1 }
          at.empty? ? [nil, []] : ["lanes", at]
        end
      end
    end
  end
end
