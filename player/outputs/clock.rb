# frozen_string_literal: true

module Loomshuttle
  module Player
    # The interface's clock, read from its packets: their 32-bit timestamps become a count that only grows, and starts again where the
    # interface restarted. It listens to one sender until that falls silent, as the recorder does. A new sender or a time far from the last
    # one counts only after several consecutive packets. Strangers' packets cost nothing.
    class Clock
      # More samples than FAR from the last timestamp is a jump. Consecutive packets are at most NEAR apart, and AGREE of them make a jump count.
      FAR, NEAR, AGREE = 24_000, 4800, 3
      # After this many seconds of silence another sender may take over.
      SILENT = 0.5

      # @return [Integer, nil] newest time
      attr_reader :time
      # @return [Integer] how often it began again
      attr_reader :restarts
      # @return [Integer] packets of others
      attr_reader :foreign

      def initialize
        @restarts = @foreign = @agree = 0
      end

      # @param packet [Formats::Rtp::Packet]   @param now [Numeric] monotonic time in seconds
      # @return [Symbol, nil] :on, or :jumped if the time changed; nil for a packet that is not trusted
      def hear(packet, now)
        return stranger if @source && packet.source != @source && now - @heard < SILENT

        far = @source == packet.source ? step(packet.timestamp).abs > FAR : true
        return unless !far || believed?(packet)

        @heard, @agree = now, 0
        far ? another(packet) : go_on(packet.timestamp)
      end

      private

      def step(timestamp) = Formats::Rtp.distance(@time % Formats::Rtp::TIMESTAMPS, timestamp, Formats::Rtp::TIMESTAMPS)

      # @return [nil]
      def stranger
        @foreign += 1
        nil
      end

      # Whether it is the last of some that follow on each other.
      def believed?(packet)
        follows = @last && @last[0] == packet.source && Formats::Rtp.distance(@last[1], packet.timestamp, Formats::Rtp::TIMESTAMPS).between?(1, NEAR)
        @agree = follows ? @agree + 1 : 1
        @last = [packet.source, packet.timestamp]
        @agree >= AGREE
      end

      # Another sender may tell the time as it was, such as one that was away for a moment.
      def another(packet)
        @source, @last = packet.source, nil
        return go_on(packet.timestamp) if @time && step(packet.timestamp).abs <= FAR

        @restarts += 1 if @time
        @time = packet.timestamp
        :jumped
      end

      def go_on(timestamp)
        step = step(timestamp)
        @time += step if step.positive?
        :on
      end
    end
  end
end
