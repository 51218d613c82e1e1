# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Turns RTP timestamps (32 bits, any start) into positions that only grow. All streams of a card share one clock; when a sender
    # restarts, its new timestamps go on where the old ones stood.
    class Timeline
      # @return [Integer] how often the sender started over
      attr_reader :restarts

      def initialize
        @restarts = 0
      end

      # @return [Boolean] whether anything has arrived yet
      def started? = !@base_timestamp.nil?

      # @param timestamp [Integer] RTP timestamp of the position from now on
      def start(timestamp, position)
        @restarts += 1 if started?
        @base_timestamp, @base_position = timestamp, position
      end

      # @param timestamp [Integer]
      # @return [Integer] its position, within half a wrap of the counter in either direction
      def position(timestamp) = @base_position + Formats::Rtp.distance(@base_timestamp, timestamp, Formats::Rtp::TIMESTAMPS)

      # Moves the base along, so that distances stay small and the counter may wrap any number of times.
      def move(timestamp, position)
        @base_timestamp, @base_position = timestamp, position if position > @base_position
      end

      # @return [Integer] RTP timestamp of a position
      def timestamp(position) = (@base_timestamp + (position - @base_position)) % Formats::Rtp::TIMESTAMPS
    end
  end
end
