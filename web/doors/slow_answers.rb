# frozen_string_literal: true

require "timeout"

module Loomshuttle
  module Web
    # Computes expensive answers (papers, large tables, comparisons) one at a time and with a time limit, and caches the latest. However many people
    # ask, at most one core is busy. Its thread:
    #   makes slow answers
    class SlowAnswers
      # Seconds that one may take; that may wait; answers that are kept, and bytes of them.
      SECONDS, WAITING, KEPT, BYTES = 15, 8, 40, 32 << 20

      def initialize(seconds: SECONDS)
        @seconds = seconds
        @jobs = Runtime::Mailbox.new(most: WAITING)
        @kept = {}
        @lock = Mutex.new # held for moments
      end

      def start
        @worker = Runtime::Worker.start("makes slow answers", priority: -1) { @jobs.pop(0.5)&.call }
      end

      def stop
        @jobs.close
        @worker&.stop
      end

      # @param key [Array] everything the answer depends on
      # @yieldreturn [String] bytes
      # @return [String]
      # @raise [Busy] if too many are waiting or it takes too long   @raise [Invalid] raised by the block
      def of(key, &block)
        known = @lock.synchronize { @kept[key] }
        return known if known
        raise Busy, "Too many requests at once. Try again in a moment." if @jobs.size >= WAITING

        done = Runtime::Mailbox.new(most: 1)
        @jobs << -> { done << outcome(key, &block) }
        kind, value = done.pop(@seconds * WAITING) || raise(Busy, "It was not ready in time. Try again in a moment.")
        kind == :done ? value : raise(value)
      end

      private

      # The same answer may have been computed a moment ago.
      def outcome(key)
        known = @lock.synchronize { @kept[key] }
        return [:done, known] if known

        made = Timeout.timeout(@seconds, Busy, "It took longer than #{@seconds} s and was stopped. Ask for less.") { yield } # rubocop:disable Style/ExplicitBlockArgument
        keep(key, made)
        [:done, made]
      rescue StandardError => e
        [:failed, e]
      end

      def keep(key, made)
        @lock.synchronize do
          @kept[key] = made
          @kept.shift while @kept.size > KEPT || (@kept.size > 1 && @kept.each_value.sum(&:bytesize) > BYTES)
        end
      end
    end
  end
end
