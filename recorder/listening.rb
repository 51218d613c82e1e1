# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Recorder
    # Examines the lanes each second for mains hum and equal signals. Both lie far below 1 kHz, so lanes are averaged down to that rate first;
    # beside the meters this costs next to nothing.
    class Listening
      RATE = 1000

      # @param rate [Integer] samples per second of the lanes; they are averaged down to RATE, or slightly more if the rate is not a multiple
      # @param on_second [Proc] called each second with the amplitudes at LineCheck::Hum::FREQUENCIES for each lane, and the pairs of lanes that carry the same sound
      def initialize(rate, &on_second)
        @step = rate / RATE
        @rate = rate / @step.to_f
        @on_second = on_second
        @parts = []
        @frames = @passing = 0
      end

      # @param batch [Batch]; one without sound starts the second over
      # @param sparing [Boolean] whether every other second is enough
      def add(batch, sparing: false)
        return forget if batch.silent?
        return pass_over(batch) if sparing && @passing.positive?

        @passing = 0
        rows = with_left_over(batch.blocks.map(&:transpose))
        @parts << Numo::DFloat.vstack(rows.map { |row| down(row) })
        @frames += rows.first.shape[1] / @step
        return if @frames < RATE

        second = Numo::DFloat.hstack(@parts)
        @parts.clear
        @frames = 0
        @passing = RATE * @step
        tell(second.transpose)
      end

      private

      def pass_over(batch)
        @left = nil
        @passing -= batch.frames
      end

      def forget
        @parts.clear
        @left = nil
        @frames = 0
      end

      # Takes whole steps and keeps the rest for next time. Each lane is a row.
      def with_left_over(rows)
        rows = @left.zip(rows).map { |left, row| left.concatenate(row, axis: 1) } if @left
        frames = rows.first.shape[1]
        whole = frames - (frames % @step)
        @left = whole == frames ? nil : rows.map { |row| row[true, whole..-1].dup }
        whole == frames ? rows : rows.map { |row| row[true, 0...whole].dup }
      end

      # Ruby runs one thread at a time: the one that follows the clock gets its turn between.
      def tell(second)
        Thread.pass
        lines = LineCheck::Hum.lines(second, @rate)
        Thread.pass
        @on_second.call(lines, LineCheck::Likeness.pairs(second))
      end

      def down(row)
        steps = room([row.shape[0], row.shape[1] / @step, @step])
        steps[0..-1] = row.flatten
        Audio::Pcm24.floats(steps.sum(axis: 2)) / (@step * Audio::Pcm24::FULL_SCALE)
      end

      # Streams and batches are mostly alike, so that the same memory serves them all.
      def room(shape) = @room&.shape == shape ? @room : @room = Numo::Int32.new(*shape).allocate
    end
  end
end
