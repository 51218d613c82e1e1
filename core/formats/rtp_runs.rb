# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Joins consecutive packets, so that not every one has to be looked at. This is the reference for the C file in ext/packets, and replaces it
    # where it cannot be built.
    module RtpRuns
      # Packets of one sender that follow on each other without a gap: sequence and timestamp are those of the first, bytes those of
      # each payload, payload all of them.
      Run = Struct.new(:payload_type, :sequence, :timestamp, :source, :bytes, :payload) do
        # @return [Integer] packets
        def count = payload.bytesize / bytes

        # @param frame_bytes [Integer]
        # @return [Array<Rtp::Packet>] in order
        def packets(frame_bytes)
          frames = bytes / frame_bytes
          Array.new(count) do |nth|
            Rtp::Packet.new(payload_type, (sequence + nth) % Rtp::SEQUENCES, (timestamp + (nth * frames)) % Rtp::TIMESTAMPS, source, payload.byteslice(nth * bytes, bytes))
          end
        end
      end

      # @param datagrams [Array<String>] of one stream, in order of arrival
      # @param frame_bytes [Integer] of the stream
      # @return [Array<Run, String>] in the same order; a datagram that is not a plain packet of whole frames is returned unchanged
      def self.of(datagrams, frame_bytes)
        datagrams.each_with_object([]) do |bytes, list|
          packet = plain(bytes, frame_bytes)
          next list << bytes unless packet
          next list.last.payload << packet.payload if follows?(list.last, packet, frame_bytes)

          list << Run.new(packet.payload_type, packet.sequence, packet.timestamp, packet.source, packet.payload.bytesize, packet.payload)
        end
      end

      class << self
        private

        def plain(bytes, frame_bytes)
          return if bytes.bytesize <= Rtp::HEADER_BYTES || bytes.getbyte(0) != 0x80 || ((bytes.bytesize - Rtp::HEADER_BYTES) % frame_bytes).positive?

          Rtp.unpack(bytes)
        end

        def follows?(run, packet, frame_bytes)
          return false unless run.is_a?(Run)

          run.bytes == packet.payload.bytesize && run.payload_type == packet.payload_type && run.source == packet.source &&
            (run.sequence + run.count) % Rtp::SEQUENCES == packet.sequence &&
            (run.timestamp + (run.count * (run.bytes / frame_bytes))) % Rtp::TIMESTAMPS == packet.timestamp
        end
      end
    end
  end
end
