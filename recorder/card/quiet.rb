# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # How long nothing arrived while we looked, by the time on the wall. What passed while this process itself was held up is not counted:
    # then packets wait in the sockets, and nobody was silent.
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
