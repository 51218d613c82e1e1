# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Packs lanes into RTP L24 packets (RFC 3190): streams of at most eight lanes, one packet a millisecond each.
    class RtpOut
      # @param streams [Array<Sdp::Stream>]
      # @param packet [Integer] frames a packet
      # @param session [Integer] SSRC of the first stream; the others count on from it
      # @param sparing [Boolean] whether a stream that is silent for the whole of a block sends nothing
      # @param send [Proc] takes stream index and bytes
      def initialize(streams, packet:, session:, sparing: false, &send)
        @sparing = sparing
        @streams = streams
        @packet = packet
        @session = session
        @send = send
        @sequence = 0
      end

      # @param block [Numo::Int32] [frames, lanes], frames a multiple of the packet
      # @param time [Integer] sample counter of its first frame
      # @param sparing [Boolean] false: what was sent for that time before is replaced, so that silence is sent as well
      def write(block, time, sparing: @sparing)
        rows = block.transpose
        sounding = sparing ? heard(rows) : @streams
        payloads = payloads(rows, sounding).values_at(*@streams)
        (block.shape[0] / @packet).times { |nth| write_packets(payloads, nth, time + (nth * @packet)) }
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
        full, others = streams.partition { |stream| stream.lanes == 8 }
        found = others.to_h { |stream| [stream, Audio::Pcm24.to_network(rows[range(stream), true].transpose.dup)] }
        return found if full.empty?

        full.zip(Audio::Pcm24.to_network_by_eight(rows[full.flat_map { |stream| range(stream).to_a }, true].dup)).to_h.merge(found)
      end

      def write_packets(payloads, nth, time)
        payloads.each_with_index do |payload, index|
          next unless payload

          size = @packet * @streams[index].lanes * Audio::Pcm24::BYTES
          @send.call(index, Rtp.pack(sequence: @sequence, timestamp: time, source: @session + index, payload: payload.byteslice(nth * size, size)))
        end
        @sequence = (@sequence + 1) % Rtp::SEQUENCES
      end
    end
  end
end
