# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Player
    # Where lanes leave to, and whose clock counts: a playback interface's, or the desk's card's, of whose return streams some belong to playback.
    # `use` is called by one thread, everything else by any.
    class WaysOut
      LANES = 8
      # Bytes of a card's description that are read at most.
      LARGEST = 65_536
      private_constant :LARGEST

      # @param host [String]   @param rate [Integer]   @param outputs [Integer]
      # @param interface [Array(Integer, Integer)] UDP port of its clock, and first port of its lanes   @param card_clock [Integer, nil] UDP port
      # @param description [String] path to the card's description of its returns (SDP)
      def initialize(host:, rate:, outputs:, interface:, card_clock:, description:)
        @rate, @outputs, @description = rate, outputs, description
        @interface = (1..outputs).each_slice(LANES).with_index.map { |slice, index| stream(host, interface.last + (2 * index), slice.size, slice.first) }
        @clocks = { interface: bind(host, interface.first), card: card_clock && bind(host, card_clock) }.compact
        turn_to(:interface, @interface)
      end

      # @return [UDPSocket] where the clock is heard
      attr_reader :clock
      # @return [Array<Formats::Sdp::Stream>] that outputs leave by, the first one's lane 1 is output 1
      attr_reader :streams

      # @param returns [Array<Integer>] first lanes of the card's streams; none: the interface
      # @return [Boolean] whether that is another way than before; the card's may have moved
      def use(returns)
        way, streams = returns.any? && @clocks[:card] ? [:card, on_card(returns)] : [:interface, @interface]
        return false if [way, streams] == [@way, @streams]

        turn_to(way, streams)
        true
      end

      # Without giving up Ruby's lock, as the recorder does (Recorder::UdpCard).
      def send(index, bytes)
        @sockets[index]&.write_nonblock(bytes, exception: false)
      rescue SystemCallError, IOError
        nil # nobody is there, or the way has just become another one
      end

      # What comes by the clock that is not listened to is let go.
      def let_go = (@clocks.values - [@clock]).each { |socket| 100.times { break if socket.recv_nonblock(1, exception: false) == :wait_readable } }

      def close = [*@clocks.values, *@sockets].each(&:close)

      private

      def turn_to(way, streams)
        before = @sockets.to_a
        @sockets = streams.map { |stream| UDPSocket.new.tap { |socket| socket.connect(stream.host, stream.port) } }
        @way, @streams, @clock = way, streams, @clocks.fetch(way)
        before.each(&:close)
      end

      # Those of a card that cannot be read, or that has other streams, lead nowhere.
      def on_card(returns)
        known = Formats::Sdp.read(File.read(@description, LARGEST).to_s.scrub).to_h { |stream| [stream.first, stream] }
        first = 1
        returns.filter_map { |lane| known[lane] }.select { |one| one.rate == @rate }.map do |one|
          stream(one.host, one.port, one.lanes, first).tap { first += one.lanes }
        end
      rescue SystemCallError, Invalid
        @way == :card ? @streams : []
      end

      def stream(host, port, lanes, first)
        Formats::Sdp::Stream.new(host: host, port: port, lanes: lanes, first: first, rate: @rate, payload_type: Formats::Rtp::PAYLOAD_TYPE)
      end

      def bind(host, port)
        UDPSocket.new.tap do |socket|
          socket.setsockopt(Socket::SOL_SOCKET, Socket::SO_RCVBUF, 1 << 20)
          socket.bind(host, port)
        end
      rescue Errno::EADDRINUSE
        raise Invalid.new("UDP port #{port} is in use; another player may run there.", where: "port #{port}")
      end
    end
  end
end
