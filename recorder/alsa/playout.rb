# frozen_string_literal: true

module Loomshuttle
  module Recorder
    module Alsa
      # Writes whole periods into a pipe that accepts any number of bytes. A partly accepted period continues with the very next byte, so frames and
      # lanes never shift. A period without room is dropped whole and counted.
      class Playout
        # Bytes that may wait for the pipe: some 20 ms of 64 lanes.
        MOST = 256 << 10

        # @return [Integer] periods that were lost
        attr_reader :lost

        # @param most [Integer] bytes
        def initialize(most: MOST)
          @most = most
          @waiting = "".b
          @lost = 0
        end

        # Never waits.
        # @param bytes [String] one period of all lanes   @param pipe [IO] of aplay
        # @return [Boolean] whether it will be played
        # @raise [SystemCallError] if the other side has gone
        def offer(bytes, pipe)
          drain(pipe)
          if !@waiting.empty? && @waiting.bytesize + bytes.bytesize > @most
            @lost += 1
            return false
          end

          @waiting << bytes
          drain(pipe)
          true
        end

        # Drops what waits, because a new pipe must begin with a whole frame.
        def clear = @waiting = "".b

        private

        def drain(pipe)
          until @waiting.empty?
            taken = pipe.write_nonblock(@waiting, exception: false)
            return if taken == :wait_writable

            @waiting = @waiting.byteslice(taken..)
          end
        end
      end
    end
  end
end
