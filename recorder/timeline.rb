# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Turns RTP timestamps (32 bits, any start) into positions that only grow. All streams of a card share one clock;
    # when a sender restarts, its new timestamps go on where the old ones stood.
    class Timeline
      # More than this apart, and it is another time line rather than a late packet (samples).
      JUMP = 5 * 48_000

      # @return [Integer] how often the sender started over
      attr_reader :restarts

      def initialize
        @sources = {}
        @restarts = 0
      end

      # @param stream [Integer]
      # @param packet [Formats::Rtp::Packet]
      # @param newest [Integer] position that the next restart goes on from
      # @return [Array(Integer, Boolean)] position, and whether a restart happened here
      def locate(stream, packet, newest)
        return [start(stream, packet, newest), false] unless @base_timestamp

        position = @base_position + Formats::Rtp.distance(@base_timestamp, packet.timestamp, Formats::Rtp::TIMESTAMPS)
        restarted = @sources.key?(stream) && @sources[stream] != packet.source && (position - newest).abs > JUMP
        @sources[stream] = packet.source
        return [restart(packet, newest), true] if restarted

        base(packet, position) if position > @base_position
        [position, false]
      end

      # Moves what was counted from the last restart to a later position.
      def rebase(position) = @base_position = position

      # @return [Integer] RTP timestamp of a position
      def timestamp(position) = (@base_timestamp + (position - @base_position)) % Formats::Rtp::TIMESTAMPS

      private

      def start(stream, packet, newest)
        @sources[stream] = packet.source
        base(packet, newest)
      end

      def restart(packet, newest)
        @restarts += 1
        base(packet, newest)
      end

      # The base moves along, so that distances stay small and the counter may wrap any number of times.
      def base(packet, position)
        @base_timestamp = packet.timestamp
        @base_position = position
      end
    end
  end
end
