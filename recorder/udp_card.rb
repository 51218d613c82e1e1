# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Recorder
    # The desk's card over the network: a UDP socket for each stream, either way.
    class UdpCard
      RECEIVE_BUFFER = 8 << 20
      LARGEST = 2048

      # @param sends [Array<Formats::Sdp::Stream>] @param returns [Array<Formats::Sdp::Stream>]
      # @raise [Invalid] when a port is taken
      def initialize(sends, returns)
        @sockets = sends.map { |stream| bind(stream) }
        @index = @sockets.each_with_index.to_h
        @out = returns.map { |stream| UDPSocket.new.tap { |socket| socket.connect(stream.host, stream.port) } }
      end

      # Waits for packets and hands all that are there to the block.
      # @param seconds [Float] longest wait
      # @yieldparam stream [Integer] @yieldparam bytes [String]
      # @return [Boolean] whether any came
      def receive(seconds, &)
        ready, = IO.select(@sockets, nil, nil, seconds)
        return false unless ready

        ready.each { |socket| drain(socket, @index[socket], &) }
        true
      end

      # Writes without giving up Ruby's lock, unlike UDPSocket#send: at each packet another thread could take it, and
      # keep it for milliseconds.
      def send(index, bytes)
        @out[index].write_nonblock(bytes, exception: false)
      rescue Errno::ECONNREFUSED, Errno::ENOBUFS, Errno::EPERM
        nil # the desk is not there; its side counts what it misses
      end

      # @return [Hash] for people
      def status = { "id" => nil, "device" => nil, "words" => "the desk's card", "state" => "running", "overruns" => 0, "lanes" => nil }

      def close = [*@sockets, *@out].each(&:close)

      private

      # A few packets of each stream in turn, fewer than the window waits for, so that the streams stay abreast.
      def drain(socket, index)
        8.times do
          bytes = socket.recv_nonblock(LARGEST, 0, nil, exception: false)
          return if bytes == :wait_readable || bytes.nil?

          yield index, bytes
        end
      end

      # @raise [Invalid] when the port is taken
      def bind(stream)
        socket = UDPSocket.new
        make_room(socket)
        socket.bind(stream.host, stream.port)
        socket
      rescue Errno::EADDRINUSE
        raise Invalid.new("UDP port #{stream.port} is in use; another recorder may run there.", where: "port #{stream.port}")
      end

      # What waits while the computer is busy with something else. Beyond the system's limit (net.core.rmem_max) only an administrator
      # may go.
      def make_room(socket)
        socket.setsockopt(Socket::SOL_SOCKET, Socket::SO_RCVBUFFORCE, RECEIVE_BUFFER)
      rescue Errno::EPERM
        socket.setsockopt(Socket::SOL_SOCKET, Socket::SO_RCVBUF, RECEIVE_BUFFER)
      end
    end
  end
end
