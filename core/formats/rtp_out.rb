# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Packs lanes into RTP L24 packets (RFC 3190): streams of at most eight lanes, one packet a millisecond each.
    class RtpOut
      # @param streams [Array<Sdp::Stream>]
      # @param packet [Integer] frames per packet
      # @param session [Integer] SSRC of the first stream; the others count on from it
      # @param sparing [Boolean] whether a stream sends nothing for a block in which it is silent throughout
      # @param together [Boolean] whether the packets of a stream's block are handed over in one string, one after the other
      # @param send [Proc] called with stream index and bytes, and with `together` also the bytes per packet
      def initialize(streams, packet:, session:, sparing: false, together: false, &send)
        @sparing, @together = sparing, together
        @streams = streams
        @packet = packet
        @session = session
        @send = send
        @sequence = 0
      end

      # @param block [Numo::Int32] [frames, lanes], frames a multiple of the packet
      # @param time [Integer] sample counter of its first frame
      # @param sparing [Boolean] false: replaces what was sent for that time before, so silence is sent too
      def write(block, time, sparing: @sparing) = put(pack(block, sparing: sparing), block.shape[0], time)

      # @param payloads [Array<String, nil>] result of pack   @param frames [Integer] length of the block
      # @param time [Integer] as for write
      def put(payloads, frames, time)
        count = frames / @packet
        if @together
          payloads.each_with_index { |payload, index| write_stream(payload, index, count, time) if payload }
        else
          count.times { |nth| write_packets(payloads, nth, time + (nth * @packet)) }
        end
        @sequence = (@sequence + count) % Rtp::SEQUENCES
      end

      # @param block [Numo::Int32]   @param sparing [Boolean] as for write
      # @return [Array<String, nil>] bytes for each stream; nil for a stream that sends nothing
      def pack(block, sparing: @sparing)
        # The same frozen block again is the same bytes again.
        return @payloads if block.frozen? && block.equal?(@block) && sparing == @spared

        rows = block.transpose
        @block, @spared = block, sparing
        @payloads = payloads(rows, sparing ? heard(rows) : @streams).values_at(*@streams)
      end

      private

      # @return [Array<Sdp::Stream>] those that are not silent throughout
      def heard(rows)
        lanes = rows.minmax(axis: 1).map(&:to_a).transpose.map { |low, high| low.nonzero? || high.nonzero? }
        @streams.select { |stream| lanes[range(stream)].any? }
      end

      def range(stream) = (stream.first - 1)...(stream.first - 1 + stream.lanes)

      # @return [Hash{Sdp::Stream=>String}]
      def payloads(rows, streams)
        streams.group_by(&:lanes).reduce({}) do |found, (lanes, alike)|
          found.merge(alike.zip(Audio::Pcm24.rows_to_network(rows_of(rows, alike, lanes), lanes)).to_h)
        end
      end

      # Streams that follow on each other are read where they lie, which is several times faster than gathering row by row.
      def rows_of(rows, streams, lanes)
        first = streams.first.first - 1
        return rows[first...(first + (streams.size * lanes)), true] if streams.each_with_index.all? { |stream, nth| stream.first == first + 1 + (nth * lanes) }

        rows[streams.flat_map { |stream| range(stream).to_a }, true]
      end

      def write_packets(payloads, nth, time)
        payloads.each_with_index do |payload, index|
          next unless payload

          @send.call(index, packet(payload, index, nth, time, size(index)))
        end
      end

      def write_stream(payload, index, count, time)
        size = size(index)
        @send.call(index, Array.new(count) { |nth| packet(payload, index, nth, time + (nth * @packet), size) }.join, Rtp::HEADER_BYTES + size)
      end

      # Bytes of the sound in a packet.
      def size(index) = @packet * @streams[index].lanes * Audio::Pcm24::BYTES

      def packet(payload, index, nth, time, size)
        Rtp.pack(sequence: @sequence + nth, timestamp: time, source: @session + index, payload: payload.byteslice(nth * size, size))
      end
    end
  end
end
