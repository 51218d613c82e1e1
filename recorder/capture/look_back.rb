# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The last minute of all lanes, so that a capture can start in the past. Limited by time and memory.
    class LookBack
      SECONDS = 60
      BYTES = 1 << 30

      # @param rate [Integer] samples a second   @param seconds [Numeric]   @param bytes [Integer]
      def initialize(rate, seconds: SECONDS, bytes: BYTES)
        @rate, @frames, @bytes = rate, seconds * rate, bytes
        @batches = []
        @held = 0
      end

      # @param batch [Batch]
      def add(batch)
        @batches << batch
        @held += size(batch)
        @held -= size(@batches.shift) while @batches.size > 1 && (@held > @bytes || frames > @frames)
      end

      # @return [Integer] frames held
      def frames = @batches.empty? ? 0 : @batches.last.position + @batches.last.frames - @batches.first.position

      # @return [Hash] seconds and bytes held, and their limits
      def status = { "seconds" => (frames / @rate.to_f).round(1), "bytes" => @held, "most_seconds" => SECONDS, "most_bytes" => @bytes }

      # @param frames [Integer] how far back
      # @return [Array<Batch>] whole batches from there on, oldest first
      def since(frames)
        from = @batches.empty? ? 0 : @batches.last.position + @batches.last.frames - frames
        @batches.drop_while { |batch| batch.position < from }
      end

      private

      def size(batch) = batch.bytes
    end
  end
end
