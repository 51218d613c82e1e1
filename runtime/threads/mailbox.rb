# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # A queue with a size and a time limit. When it is full, the oldest entries are dropped and counted.
    class Mailbox
      # @param most [Integer] messages held at once; the oldest is dropped
      def initialize(most:)
        @most = most
        @letters = []
        @missed = 0
        @lock = Mutex.new
        @more = ConditionVariable.new
      end

      # Never waits.
      def <<(letter)
        @lock.synchronize do
          next if @closed

          @letters << letter
          @missed += @letters.shift(@letters.size - @most).size if @letters.size > @most
          @more.signal
        end
        self
      end

      # @param seconds [Numeric, nil] longest wait; nil for ever
      # @return [Object, nil] the oldest message; nil if none arrived, or the box was closed
      def pop(seconds = nil)
        deadline = seconds && (Clock.now + seconds)
        @lock.synchronize do
          while @letters.empty? && !@closed
            left = deadline && (deadline - Clock.now)
            break if left && left <= 0

            @more.wait(@lock, left)
          end
          @letters.shift
        end
      end

      # @return [Integer] messages dropped since the last call
      def missed = @lock.synchronize { @missed.tap { @missed = 0 } }

      def empty? = @lock.synchronize { @letters.empty? }
      def size = @lock.synchronize { @letters.size }

      def close
        @lock.synchronize do
          @closed = true
          @more.broadcast
        end
      end

      def closed? = @closed == true
    end
  end
end
