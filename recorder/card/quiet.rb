# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # How long nothing arrived, by the wall clock. Time in which this process itself was held up does not count, since packets then wait in the
    # sockets.
    class Quiet
      # A look is due this often (seconds); what is longer is our own delay.
      LOOK = 0.3

      def initialize
        @for = 0.0
      end

      # Somebody looked, and nothing had come.
      # @param now [Float] seconds that only grow
      def look(now)
        @for += [now - @at, LOOK].min if @at
        @at = now
      end

      # Something has come.
      # @return [Float] seconds of silence before it
      def heard(now)
        look(now)
        @for.tap { @for = 0.0 }
      end
    end
  end
end
