# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Runtime
    # Sends the RTP packets of one stream to where it goes. Several of one size leave with one system call where the system cuts them apart
    # (UDP segmentation offload, Linux 4.18 and later), and one by one elsewhere. Never waits, nor gives up Ruby's lock, unlike UDPSocket#send: at
    # each packet another thread could take it, and keep it for milliseconds.
    class PacketSender
      # Of linux/udp.h; and the bytes that one call takes at most, those of a datagram.
      UDP_SEGMENT, MOST_BYTES = 103, 65_507
      # The receiver has gone, a filter refuses the packet or the system has no room: the receiver counts what it misses.
      GONE = [Errno::ECONNREFUSED, Errno::ENOBUFS, Errno::EPERM, Errno::ENETUNREACH, Errno::EHOSTUNREACH].freeze
      private_constant :UDP_SEGMENT, :MOST_BYTES, :GONE

      # @param host [String]   @param port [Integer]
      def initialize(host, port)
        @socket = UDPSocket.new.tap { |socket| socket.connect(host, port) }
        @cut = 0 # bytes that the system cuts after; nil where it cannot
      end

      # @param bytes [String] a packet, or several consecutive ones of the same size   @param size [Integer] bytes of one
      def send(bytes, size = bytes.bytesize)
        count = bytes.bytesize / size
        return write(bytes) if count == 1 && (@cut.nil? || @cut.zero? || size <= @cut)
        return each_of(bytes, size) unless bytes.bytesize <= MOST_BYTES && cut_after?(size)

        write(bytes)
      rescue Errno::EMSGSIZE, Errno::EINVAL, Errno::EIO, Errno::EOPNOTSUPP
        raise if @cut.nil? || @cut.zero?

        give_up_cutting
        each_of(bytes, size)
      end

      def close = @socket.close

      private

      # An error reported here belongs to an earlier packet, so this one is tried once more.
      def write(bytes, retries: 1)
        @socket.write_nonblock(bytes, exception: false)
      rescue *GONE
        write(bytes, retries: retries - 1) if retries.positive?
      end

      def each_of(bytes, size) = (bytes.bytesize / size).times { |nth| write(bytes.byteslice(nth * size, size)) }

      def cut_after?(size)
        return @cut == size if @cut == size || @cut.nil?

        @socket.setsockopt(Socket::IPPROTO_UDP, UDP_SEGMENT, size)
        @cut = size
        true
      rescue SystemCallError
        @cut = nil
        false
      end

      # For example on a network interface whose packets must be smaller than ours.
      def give_up_cutting
        @cut = nil
        @socket.setsockopt(Socket::IPPROTO_UDP, UDP_SEGMENT, 0)
      rescue SystemCallError
        nil
      end
    end
  end
end
