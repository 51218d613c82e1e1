# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # 50 ms of all lanes. streams: [[first lane (0-based), lanes, bytes], …]; gaps: [[first lane, lanes, at, frames], …]
    # at positions on the engine's time line. break: where the sender started anew, :ends for what was under way and :begins for what
    # came then, which somebody with a clock makes the seconds between.
    Batch = Struct.new(:position, :frames, :streams, :gaps, :break) do
      # @param count [Integer] frames
      # @return [Batch] its first frames only
      def first(count)
        return self if count >= frames

        kept = streams.map { |from, lanes, bytes| [from, lanes, bytes.byteslice(0, count * lanes * Audio::Pcm24::BYTES)] }
        cut = gaps.select { |_, _, at, _| at < position + count }.map { |from, lanes, at, missing| [from, lanes, at, [missing, position + count - at].min] }
        Batch.new(position, count, kept, cut, self.break)
      end

      # @param start [Integer] position on the engine's time line
      # @return [Batch, nil] its frames from there on; nil when it ends before
      def from(start)
        skip = start - position
        return self unless skip.positive?
        return if skip >= frames

        kept = streams.map { |first, lanes, bytes| [first, lanes, bytes.byteslice((skip * lanes * Audio::Pcm24::BYTES)..)] }
        cut = gaps.select { |_, _, at, missing| at + missing > start }.map { |first, lanes, at, missing| [first, lanes, [at, start].max, at + missing - [at, start].max] }
        Batch.new(start, frames - skip, kept, cut)
      end

      # @return [Array<Numo::Int32>] each stream's samples, [frames, lanes]
      def blocks = @blocks || decoded

      # Keeps the numbers for everybody who wants to see them now.
      def hold_samples
        @blocks = decoded
      end

      # Lets them go; the bytes and the levels stay.
      def forget_samples
        levels
        @blocks = nil
      end

      # @return [Array(Array<Float>, Array<Float>)] peak amplitudes and mean squares of all lanes
      def levels
        @levels ||= blocks.map { |block| [Audio::Level.peak_amplitudes(block), Audio::Level.mean_squares(block)] }.transpose.map { |parts| parts.flatten(1) }
      end

      private

      def decoded
        streams.map do |_, lanes, bytes|
          Thread.pass # Ruby runs one thread at a time: between streams the one that follows the clock gets its turn
          Audio::Pcm24.from_network(bytes, lanes)
        end
      end
    end
  end
end
