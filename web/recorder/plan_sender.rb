# frozen_string_literal: true

module Loomshuttle
  module Web
    # Sends the newest plan to the recorder or the player. Several edits in a row are sent once. Its thread:
    #   recorder follows   tells it when woken, and again while it is away
    class PlanSender
      AGAIN = 2
      # Seconds that a plan nobody waits for is left alone, so that the screens of those who watch come first.
      PAUSE = 0.1

      # @param tell [Proc] sends the plan; raises Away while the recorder is away
      # @param name [String] of the thread
      def initialize(tell, name: "recorder follows")
        @tell, @name = tell, name
        @wake = Runtime::Wakeup.new
        @told = Runtime::Wakeup.new
      end

      def start
        @worker = Runtime::Worker.start(@name, priority: Runtime::Worker::PATIENT) { turn }
      end

      def stop
        @wake.wake
        @worker&.stop
      end

      # @param wait [Numeric] longest wait in seconds; 0 returns at once
      def follow(wait: 0)
        @told.wait(0) # what was told before does not count
        @soon ||= wait.positive?
        @wake.wake
        @told.wait(wait) if wait.positive?
      end

      private

      def turn
        return unless @wake.wait(1) || @again

        @again = true
        @worker&.rest(PAUSE) unless @soon
        @soon = false
        @tell.call
        @again = false
        @told.wake
      rescue Away
        @wake.wait(AGAIN) && @wake.wake
      end
    end
  end
end
