# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # 50 ms of all lanes. streams: [[first lane (0-based), lanes, bytes], …]; gaps: [[first lane, lanes, at, frames], …]
    # at positions on the engine's time line.
    Batch = Struct.new(:position, :frames, :streams, :gaps) do
      # @param count [Integer] frames
      # @return [Batch] its first frames only
      def first(count)
        return self if count >= frames

        kept = streams.map { |from, lanes, bytes| [from, lanes, bytes.byteslice(0, count * lanes * Audio::Pcm24::BYTES)] }
        cut = gaps.select { |_, _, at, _| at < position + count }.map { |from, lanes, at, missing| [from, lanes, at, [missing, position + count - at].min] }
        Batch.new(position, count, kept, cut)
      end

      # @return [Array(Array<Float>, Array<Float>)] peak amplitudes and mean squares of all lanes
      def levels
        @levels ||= streams.map { |_, lanes, bytes| stream_levels(bytes, lanes) }.transpose.map { |parts| parts.flatten(1) }
      end

      private

      # Ruby runs one thread at a time: between streams the one that follows the clock gets its turn.
      def stream_levels(bytes, lanes)
        Thread.pass
        block = Audio::Pcm24.from_network(bytes, lanes)
        [Audio::Level.peak_amplitudes(block), Audio::Level.mean_squares(block)]
      end
    end
  end
end
