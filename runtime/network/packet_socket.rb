# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Runtime
    # A UDP socket for the RTP packets of one stream.
    class PacketSocket
      # Longer datagrams are cut: none of ours is longer.
      LARGEST = 8192
      # Most packets read at once.
      MOST = 32
      # What waits while the computer is busy with something else.
      RECEIVE_BUFFER = 8 << 20

      # @param list [Array<Formats::RtpRuns::Run, String>] as returned by read
      # @return [Integer] packets
      def self.count(list) = list.sum { |one| one.is_a?(String) ? 1 : one.count }

      # @param host [String]   @param port [Integer]   @param frame_bytes [Integer] of the stream
      # @raise [Errno::EADDRINUSE] if the port is in use
      def initialize(host, port, frame_bytes)
        @frame_bytes = frame_bytes
        @socket = UDPSocket.new
        make_room
        @socket.bind(host, port)
        @native = Native.packets
      end

      # For IO.select.
      def to_io = @socket

      # @param most [Integer] packets, at most MOST
      # @return [Array<Formats::RtpRuns::Run, String>] what has arrived; empty if nothing has
      def read(most)
        return @native.receive(@socket.fileno, most, @frame_bytes, Formats::RtpRuns::Run) if @native

        Formats::RtpRuns.of(datagrams(most), @frame_bytes)
      end

      # Yields what has arrived, one by one.
      # @param most [Integer] approximate number of packets
      # @yieldparam arrived [Formats::RtpRuns::Run, String]
      def drain(most, &block)
        (most / MOST).times do
          list = read(MOST)
          list.each(&block)
          return if self.class.count(list) < MOST # nothing more waits
        end
      end

      def close = @socket.close

      private

      def datagrams(most)
        list = []
        while list.size < most
          bytes = @socket.recv_nonblock(LARGEST, 0, nil, exception: false)
          break if bytes == :wait_readable || bytes.nil?

          list << bytes
        end
        list
      end

      # Beyond the system's limit (net.core.rmem_max) only an administrator may go.
      def make_room
        @socket.setsockopt(Socket::SOL_SOCKET, Socket::SO_RCVBUFFORCE, RECEIVE_BUFFER)
      rescue Errno::EPERM
        @socket.setsockopt(Socket::SOL_SOCKET, Socket::SO_RCVBUF, RECEIVE_BUFFER)
      end
    end
  end
end
