# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Derives the strands of a show from its graph: each channel in order with every path to the recorder, then mixes with a card send, then tracks
    # without a source.
    class Strands
      # @return [Array<Strand>]
      def self.of(show, graph) = new(show, graph).list

      def initialize(show, graph)
        @show = show
        @graph = graph
        @sends = show.sends.values.group_by(&:source)
      end

      def list
        from_channels = @show.channels.values.select { |channel| channel.used? || sent?(channel) }.flat_map do |channel|
          bases(channel).flat_map { |base| from_base(base) }
        end
        from_channels + @show.profile.mix_points.flat_map { |base| sends_of(base).flat_map { |send| from_send(nil, base, send) } } +
          dangling_sends + lone_tracks
      end

      private

      def bases(channel) = @show.profile.channel_points(channel.number)

      def sent?(channel) = bases(channel).any? { |base| @sends.key?(base) }

      # The physical socket behind what a channel hears on stage; a card return where it hears the computer.
      def socket_of(base)
        source = @graph.into(base.at("preamp")).first&.from || card_source(base)
        source && @show.layout.socket_of(source)
      end

      def card_source(base)
        channel = @show.channel_at(base)
        channel.stage.beside(base.right? ? 1 : 0) if channel&.card_fed?
      end

      def tracks_on(send) = @graph.from(Rig::Point.card_send(send.lane))
      def sends_of(base) = @sends.fetch(base, [])

      def from_base(base)
        socket = socket_of(base)
        sends = sends_of(base)
        return [strand(socket: socket, channel: base)] if sends.empty?

        sends.flat_map { |send| from_send(socket, base, send) }
      end

      def from_send(socket, base, send)
        head = { socket: socket, channel: base, send: send.lane, tap: @show.tap_of(send) }
        tracks = tracks_on(send)
        return [strand(**head)] if tracks.empty?

        tracks.map { |join| from_track(head, join.to) }
      end

      def from_track(head, point)
        out = @graph.from(Rig::Point.track(point.number, "out", point.side)).map(&:to).find(&:card?)
        strand(**head, track: point.number, track_lane: point.right? ? 1 : 0, return: out&.number, home: home(out))
      end

      # Tracks whose lane has no source on the desk.
      def dangling_sends
        @show.sends.values.reject(&:source).flat_map do |send|
          tracks_on(send).map { |join| from_track({ send: send.lane, tap: @show.tap_of(send) }, join.to) }
        end
      end

      # Tracks that only play: outputs, but no inputs.
      def lone_tracks
        @show.tracks.values.select { |track| track.inputs.empty? && !track.outputs.empty? }
          .flat_map { |track| track.points("in").map { |point| from_track({}, point) } }
      end

      def home(point)
        return [] unless point

        @graph.from(point).map { |join| join.to.base }.select(&:channel?) # an output that carries it as well is not a way home
      end

      NOTHING = { socket: nil, channel: nil, send: nil, tap: nil, track: nil, track_lane: nil, return: nil, home: [].freeze }.freeze
      private_constant :NOTHING

      def strand(**known) = Strand.new(**NOTHING, **known)
    end
  end
end
