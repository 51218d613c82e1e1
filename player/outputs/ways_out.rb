# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Player
    # Where lanes leave to, and whose clock counts: a playback interface's, the desk's card's, of whose return streams some belong to playback, or a
    # sound card's of this computer.
    # `use` is called by one thread at a time, everything else by any.
    class WaysOut
      LANES = 8
      # Bytes of a card's description that are read at most.
      LARGEST = 65_536
      LARGEST_PACKET = 4096
      MOST = 5000
      private_constant :LARGEST, :LARGEST_PACKET, :MOST

      # @param host [String]   @param rate [Integer]   @param outputs [Integer]
      # @param interface [Array(Integer, Integer)] UDP port of its clock, and first port of its lanes   @param card_clock [Integer, nil] UDP port of the card's clock
      # @param description [String] path to the card's description of its returns (SDP)   @param now [Proc] monotonic time in seconds
      def initialize(host:, rate:, outputs:, interface:, card_clock:, description:, now: Runtime::Clock.method(:now))
        @rate, @outputs, @description, @now = rate, outputs, description, now
        @interface = (1..outputs).each_slice(LANES).with_index.map { |slice, index| stream(host, interface.last + (2 * index), slice.size, slice.first) }
        @clocks = { interface: bind(host, interface.first), card: card_clock && bind(host, card_clock) }.compact
        turn_to(:interface, @interface)
      end

      # @return [UDPSocket, nil] where the clock is heard; nil for a sound card
      attr_reader :clock
      # @return [SoundCard, nil]
      attr_reader :sound
      # @return [Array<Formats::Sdp::Stream>] that outputs leave by, the first one's lane 1 is output 1
      attr_reader :streams

      # @param returns [Array<Integer>] first lanes of the card's streams; none: the interface
      # @param device [Runtime::SoundDevices::Device, nil] a sound card of this computer; it takes precedence
      # @return [Boolean] whether the output path changed, also because the card's returns moved
      def use(returns, device = nil)
        return false if device && device == @sound&.device
        return by_sound(device) if device

        way, streams = returns.any? && @clocks[:card] ? [:card, on_card(returns)] : [:interface, @interface]
        return false if [way, streams] == [@way, @streams]

        turn_to(way, streams)
        true
      end

      # Waits for the clock. @param seconds [Float] longest wait
      # @yieldparam bytes [String] an RTP packet
      def hear(seconds, &)
        clock, sound = @clock, @sound
        return sound.hear(seconds, &) if sound
        return sleep(0.001) unless clock # it is just becoming another one
        return unless clock.wait_readable(seconds)

        bytes = clock.recv_nonblock(LARGEST_PACKET, exception: false)
        yield bytes if bytes.is_a?(String)
      end

      # @param bytes [String] consecutive packets of one stream   @param size [Integer] bytes of each
      def send(index, bytes, size = bytes.bytesize)
        return @sound.send(index, bytes) if @sound

        @senders[index]&.send(bytes, size)
      rescue SystemCallError, IOError
        nil # the way has just become another one
      end

      # Silences at once what a sound card still has to play.
      # @return [Boolean] whether a sound card is in use
      def cut = !@sound.nil? && @sound.cut

      # Discards what arrives from the unused clock; MOST is many times more than arrives between two calls.
      def let_go = (@clocks.values - [@clock]).each { |socket| MOST.times { break if socket.recv_nonblock(1, exception: false) == :wait_readable } }

      def close = [*@clocks.values, *@senders, @sound].compact.each(&:close)

      private

      def by_sound(device)
        turn_to(:sound, [])
        @clock, @sound = nil, SoundCard.new(device, rate: @rate, now: @now, most: @outputs)
        @streams = @sound.streams
        true
      end

      def turn_to(way, streams)
        before = [*@senders, *@sound]
        @senders = streams.map { |stream| Runtime::PacketSender.new(stream.host, stream.port) }
        @way, @streams, @clock, @sound = way, streams, @clocks[way], nil
        before.each(&:close)
      end

      # Those of a card that cannot be read, or that has other streams, lead nowhere.
      def on_card(returns)
        known = Formats::Sdp.read(File.read(@description, LARGEST).to_s.scrub).to_h { |stream| [stream.first, stream] }
        first = 1
        returns.filter_map { |lane| known[lane] }.select { |one| plays_to?(one) }.map do |one|
          stream(one.host, one.port, one.lanes, first).tap { first += one.lanes }
        end
      rescue SystemCallError, Invalid
        @way == :card ? @streams : []
      end

      # As in the recorder, nothing leaves this computer unless allowed at the start.
      def plays_to?(stream)
        stream.rate == @rate && stream.lanes.between?(1, LANES) && stream.port.between?(1, 65_535) && Runtime::CardHosts.allow?(stream.host)
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
