# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Batches between the thread that follows the clock and the one that writes. Its size is limited: when the disk falls further behind, batches
    # become a length without sound, which the take reports.
    class Spool
      MOST = 256 << 20

      # @return [Integer] frames that were let go
      attr_reader :dropped

      # @param most [Integer] bytes
      def initialize(most: MOST)
        @most = most
        @batches = []
        @bytes = @dropped = 0
        @lock = Mutex.new
        @more = ConditionVariable.new
      end

      # Never waits for the reader.
      # @param batch [Batch]
      def <<(batch)
        @lock.synchronize do
          @bytes + batch.bytes > @most ? drop(batch) : keep(batch)
          @more.signal
        end
        self
      end

      # @return [Batch, nil] the next batch, waiting if necessary; nil once closed and empty
      def pop
        @lock.synchronize do
          @more.wait(@lock, 1) while @batches.empty? && !@closed # woken by << and close; the second is a net
          @batches.shift&.tap { |batch| @bytes -= batch.bytes }
        end
      end

      def close
        @lock.synchronize do
          @closed = true
          @more.broadcast
        end
      end

      private

      def keep(batch)
        @batches << batch
        @bytes += batch.bytes
      end

      def drop(batch)
        @dropped += batch.frames
        last = @batches.last
        return @batches[-1] = last.and_dropped(batch) if last&.behind&.positive? && last.position + last.frames == batch.position

        @batches << batch.dropped
      end
    end
  end
end
