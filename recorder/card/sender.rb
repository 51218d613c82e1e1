# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The one sender of a stream (source, payload type and packet length), until it falls silent. Packets of others are counted and change nothing.
    # A new sender is accepted after a few consecutive packets (RFC 3550, Appendix A.1, MIN_SEQUENTIAL); they are kept, so nothing is lost.
    class Sender
      # Seconds without a word, and another one may take the place.
      SILENT = 0.5
      # Consecutive packets required to trust a sender, within this many sequence numbers.
      PROBATION = 3
      NEAR = 20
      # Others that are listened to at once, and how long each has for its packets (seconds).
      CANDIDATES = 4
      PATIENCE = 1.0
      # Longest packet, in frames: 10 ms at 192 kHz.
      LONGEST = 1920

      Candidate = Struct.new(:key, :packets, :since)

      # @return [Integer] packets of others
      attr_reader :foreign
      # @return [Integer] of the stream
      attr_reader :frame_bytes

      # @param lanes [Integer] of the stream   @param payload_type [Integer] from its description
      def initialize(lanes, payload_type)
        @frame_bytes, @payload_type = lanes * Audio::Pcm24::BYTES, payload_type
        @candidates = []
        @foreign = 0
        @heard = 0.0
      end

      # @param packet [Formats::Rtp::Packet]   @param now [Float] monotonic time in seconds
      # @return [Array<Formats::Rtp::Packet>] packets to accept now, in order of arrival: none from a stranger; all held ones once their
      #   sender is trusted
      def admit(packet, now)
        return stranger unless whole?(packet)

        key = [packet.source, packet.payload.bytesize]
        if key == @key
          @heard = now
          return [packet]
        end
        return stranger if @key && now - @heard < SILENT

        try(key, packet, now)
      end

      # @param run [Formats::RtpRuns::Run]   @param now [Float]
      # @return [Boolean] whether the run comes from the accepted sender, which then counts as heard
      def goes_on?(run, now)
        return false unless @key == [run.source, run.bytes] && run.payload_type == @payload_type

        @heard = now
        true
      end

      # @return [Integer] frames per packet of the accepted sender
      def frames = @key[1] / @frame_bytes

      private

      def whole?(packet)
        size = packet.payload.bytesize
        packet.payload_type == @payload_type && size.positive? && (size % @frame_bytes).zero? && size <= LONGEST * @frame_bytes
      end

      def stranger
        @foreign += 1
        []
      end

      def try(key, packet, now)
        @candidates.reject! { |one| now - one.since > PATIENCE && (@foreign += one.packets.size) }
        candidate = @candidates.find { |one| one.key == key } || add(key, now)
        candidate.packets.clear unless candidate.packets.all? { |one| follows?(one, packet) }
        candidate.packets << packet unless candidate.packets.any? { |one| one.sequence == packet.sequence }
        return [] if candidate.packets.size < PROBATION

        @key, @heard = key, now
        @candidates.each { |one| @foreign += one.packets.size unless one.equal?(candidate) }
        @candidates.clear
        candidate.packets
      end

      def add(key, now)
        @foreign += @candidates.shift.packets.size if @candidates.size >= CANDIDATES
        Candidate.new(key, [], now).tap { |one| @candidates << one }
      end

      # Numbers that are near each other, and times that are as far apart as their numbers say.
      def follows?(one, packet)
        steps = Formats::Rtp.distance(one.sequence, packet.sequence, Formats::Rtp::SEQUENCES)
        steps.abs <= NEAR && Formats::Rtp.distance(one.timestamp, packet.timestamp, Formats::Rtp::TIMESTAMPS) == steps * (packet.payload.bytesize / @frame_bytes)
      end
    end
  end
end
