# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # Lets one thread wait for a signal from another, with a time limit. A signal before the wait counts. Its own lock is held for moments only, so
    # either side may hold others.
    class Wakeup
      def initialize
        @lock = Mutex.new
        @word = ConditionVariable.new
        @woken = false
      end

      def wake
        @lock.synchronize do
          @woken = true
          @word.broadcast
        end
      end

      # @param seconds [Numeric] longest wait
      # @return [Boolean] whether it was woken
      def wait(seconds)
        deadline = Clock.now + seconds
        @lock.synchronize do
          while !@woken && (left = deadline - Clock.now).positive?
            @word.wait(@lock, left)
          end
          @woken.tap { @woken = false }
        end
      end
    end
  end
end
