# frozen_string_literal: true

require "socket"

module Loomshuttle
  module StandIns
    module Interface
      # A computer at the interface: its lanes come in, and it is told the interface's clock. One that does not listen costs nothing: it is told
      # again now and then only, and nothing is expected of it until it hears that.
      class Computer
        # A computer that did not listen is told again after this (seconds).
        AGAIN = 0.1

        # @param host [String]   @param port [Integer] UDP port at which it listens
        # @param lanes [Array<Runtime::PacketSocket>] that what it plays comes in by
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
        rescue Errno::ECONNREFUSED # what was told before met nobody
          @refused_at = @now.call
        rescue SystemCallError
          nil # the system has no room
        end

        # @param most [Integer] packets of a stream at once
        # @yieldparam stream [Integer]   @yieldparam arrived [Formats::RtpRuns::Run, String]
        def take_in(most)
          return if @refused_at

          @lanes.each_with_index { |socket, stream| socket.drain(most) { |arrived| yield stream, arrived } }
        end
      end
    end
  end
end
