# frozen_string_literal: true

module Loomshuttle
  module Formats
    # RTP packets (RFC 3550) that carry L24 audio (RFC 3190). Header: version 2, no padding, no extension is written;
    # contributing sources, extensions and padding are understood when read.
    module Rtp
      PAYLOAD_TYPE = 97
      HEADER_BYTES = 12
      SEQUENCES = 1 << 16
      TIMESTAMPS = 1 << 32

      # sequence 0..65535; timestamp in samples, 32 bits; payload: interleaved big-endian samples
      Packet = Struct.new(:payload_type, :sequence, :timestamp, :source, :payload)

      # @param sequence [Integer] wraps at 16 bits
      # @param timestamp [Integer] in samples, wraps at 32 bits
      # @param source [Integer] SSRC
      # @param payload [String] binary
      # @return [String]
      def self.pack(sequence:, timestamp:, source:, payload:)
        [0x80, PAYLOAD_TYPE, sequence % SEQUENCES, timestamp % TIMESTAMPS, source, payload].pack("CCnNNa*")
      end

      # @return [Packet, nil] nil when the bytes are not an RTP packet
      def self.unpack(bytes)
        return nil if bytes.bytesize < HEADER_BYTES

        flags, type, sequence, timestamp, source = bytes.unpack("CCnNN")
        return nil unless flags >> 6 == 2
        return Packet.new(type & 0x7f, sequence, timestamp, source, bytes.byteslice(HEADER_BYTES..)) if flags == 0x80

        payload = payload_of(bytes, flags)
        payload && Packet.new(type & 0x7f, sequence, timestamp, source, payload)
      end

      # Skips contributing sources and a header extension, and drops padding (RFC 3550, 5.1 and 5.3.1).
      def self.payload_of(bytes, flags)
        start = HEADER_BYTES + (4 * (flags & 0x0f))
        if flags.anybits?(0x10)
          return nil if bytes.bytesize < start + 4

          start += 4 + (4 * bytes.byteslice(start + 2, 2).unpack1("n"))
        end
        finish = bytes.bytesize - (flags.anybits?(0x20) ? bytes.getbyte(-1) : 0)
        finish >= start ? bytes.byteslice(start, finish - start) : nil
      end
      private_class_method :payload_of

      # The shortest way from one counter value to another, in either direction.
      # @return [Integer] signed steps from old to new on a counter that wraps at `size`
      def self.distance(old, new, size)
        step = (new - old) % size
        step >= size / 2 ? step - size : step
      end
    end
  end
end
