# frozen_string_literal: true

require "socket"

module Loomshuttle
  module StandIns
    module Interface
      # One computer at the interface: gets the interface's clock, and sends the lanes that it plays. While nobody listens there, the clock is sent
      # rarely and the lanes are not read, which saves system calls.
      class Computer
        # Seconds until the clock is sent again to a computer where nobody listened.
        AGAIN = 0.1

        # @param host [String]   @param port [Integer] UDP port at which it listens
        # @param lanes [Array<Runtime::PacketSocket>] one per stream
        # @param now [Proc] seconds
        def initialize(host, port, lanes, now: Runtime::Clock.method(:now))
          @socket = UDPSocket.new.tap { |socket| socket.connect(host, port) }
          @lanes, @now = lanes, now
        end

        # @param bytes [String] RTP
        def tell(bytes)
          return if @refused_at && @now.call - @refused_at < AGAIN

          @socket.write_nonblock(bytes, exception: false)
          @refused_at = nil
        rescue Errno::ECONNREFUSED # nobody was there for the packet before
          @refused_at = @now.call
        rescue SystemCallError
          nil # the system's buffers are full
        end

        # @param most [Integer] packets per stream and call
        # @yieldparam stream [Integer]   @yieldparam arrived [Formats::RtpRuns::Run, String]
        def take_in(most)
          return if @refused_at

          @lanes.each_with_index { |socket, stream| socket.drain(most) { |arrived| yield stream, arrived } }
        end
      end
    end
  end
end
