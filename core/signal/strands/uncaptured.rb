# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Sources that the next capture would miss, each with the reason. People want to know this before they press Capture.
    class Uncaptured
      # kind: "no-send", "no-track", "not-armed" or "beyond-card"; why: in words; point: where it ends; channel: its number, nil for a mix;
      # full: whether it is lanes of the card that lack
      Left = Value.define(:kind, :title, :why, :point, :channel, :full)
      # Taps that carry a source before a channel's own treatment.
      RAW = %w[preamp channel-in].freeze
      private_constant :RAW

      # @param show [Settings::Show]
      # @return [Array<Left>] channels in order, then other sends, then tracks
      def self.of(show) = new(show).list

      def initialize(show)
        @show = show
        @sends = show.sends.values.select(&:source)
        @tracked = show.tracks.values.flat_map(&:inputs).uniq
        @sent = @sends.filter_map { |send| show.channel_at(send.source)&.number }.uniq
      end

      # @return [Array<Left>]
      def list = without_send + @sends.filter_map { |send| cut_off(send) } + @show.tracks.values.filter_map { |track| unarmed(track) }

      private

      def without_send
        raw = @sends.select { |send| RAW.include?(@show.tap_of(send)) }.filter_map { |send| @show.channel_at(send.source)&.number }
        same = Settings::SharedPreamp.groups(@show).flat_map { |list| list.map(&:number).intersect?(raw) ? list.map(&:number) : [] }
        sources.reject { |channel| (@sent + same).include?(channel.number) }.map do |channel|
          why = ["no card send carries it", ("and all #{@show.card_lanes} lanes of the card are in use" if full?)].compact.join(", ")
          Left.new(kind: "no-send", title: channel.title, why: why, point: @show.profile.channel_points(channel.number).first, channel: channel.number, full: full?)
        end
      end

      # Channels that somebody is heard on; what songs are played into is none of these, nor what comes from the card.
      def sources
        cabled = @show.playback_sockets
        @show.channels.values.select { |channel| !channel.name.empty? && channel.stage && !channel.card_fed? && !cabled.include?(@show.layout.socket_of(channel.stage)) }
      end

      def full? = (1..@show.card_lanes).none? { |lane| @show.sends[lane]&.source.nil? && !@tracked.include?(lane) }

      def cut_off(send)
        why = if send.lane > @show.card_lanes then ["beyond-card", "card send #{send.lane} is beyond the #{@show.card_lanes} lanes that the card carries"]
              elsif !@tracked.include?(send.lane) then ["no-track", "no track takes card send #{send.lane}"]
              end
        return unless why

        channel = @show.channel_at(send.source)
        Left.new(kind: why[0], title: channel&.title || @show.label(send.source), why: why[1], point: Rig::Point.card_send(send.lane), channel: channel&.number,
                 full: why[0] == "beyond-card")
      end

      def unarmed(track)
        return if track.armed || track.inputs.empty? || track.inputs.any? { |lane| lane > @show.card_lanes || @show.sends[lane]&.source.nil? }

        Left.new(kind: "not-armed", title: @show.title_of(track), why: "track #{track.number} is not armed", point: track.points("in").first, channel: nil, full: false)
      end
    end
  end
end
