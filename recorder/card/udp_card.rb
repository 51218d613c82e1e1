# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Recorder
    # The desk's card over the network: a UDP socket for each stream and direction.
    class UdpCard
      # Packets of a stream that are read in turn: fewer than the window waits for, so that the streams stay abreast.
      TURN = 16
      # Packets arrive each millisecond. Reading some at once costs a fraction; the sound that is played back is paced by them and needs more
      # regular steps (seconds).
      PAUSE, PAUSE_PLAYING = 0.015, 0.002

      # @param sends [Array<Formats::Sdp::Stream>] @param returns [Array<Formats::Sdp::Stream>]
      # @raise [Invalid] if a port is in use
      def initialize(sends, returns)
        @sockets = sends.map { |stream| bind(stream) }
        @out = returns.map { |stream| Runtime::PacketSender.new(stream.host, stream.port) }
      end

      # Waits for packets and yields all that are there.
      # @param seconds [Float] longest wait
      # @param playing [Boolean] whether a take is playing
      # @yieldparam stream [Integer] @yieldparam arrived [Formats::RtpRuns::Run, String]
      # @return [Boolean] whether anything arrived
      def receive(seconds, playing: false)
        return false unless @flowing || IO.select(@sockets, nil, nil, seconds)

        sleep(playing ? PAUSE_PLAYING : PAUSE) unless @more
        @more = @flowing = false
        @sockets.each_with_index { |socket, index| drain(socket) { |arrived| yield index, arrived } }
        @flowing
      end

      # Sends without asking whether the desk is there; the desk counts what it misses.
      def send(index, bytes) = @out[index].send(bytes)

      # @return [Hash] status for people
      def status = { "id" => nil, "device" => nil, "words" => "the desk's card", "state" => "running", "overruns" => 0, "lanes" => nil }

      def close = [*@sockets, *@out].each(&:close)

      private

      # While something comes nobody asks whether there is anything. When a stream may have more, the next turn comes at once.
      def drain(socket, &)
        list = socket.read(TURN)
        return if list.empty?

        @flowing = true
        list.each(&)
        @more = true if Runtime::PacketSocket.count(list) == TURN
      end

      # @raise [Invalid] when the port is taken
      def bind(stream)
        Runtime::PacketSocket.new(stream.host, stream.port, stream.lanes * Audio::Pcm24::BYTES)
      rescue Errno::EADDRINUSE
        raise Invalid.new("UDP port #{stream.port} is in use; another recorder may run there.", where: "port #{stream.port}")
      end
    end
  end
end
