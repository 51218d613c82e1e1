# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # How long nothing arrived, by the wall clock. Time in which this process itself was held up does not count, since packets then wait in the
    # sockets.
    class Quiet
      # Expected time between looks (seconds); anything longer is our own delay and does not count as silence.
      LOOK = 0.3

      def initialize
        @for = 0.0
      end

      # Notes that nothing had arrived.
      # @param now [Float] monotonic time in seconds
      def look(now)
        @for += [now - @at, LOOK].min if @at
        @at = now
      end

      # Notes that something arrived.
      # @return [Float] seconds of silence before it
      def heard(now)
        look(now)
        @for.tap { @for = 0.0 }
      end
    end
  end
end
