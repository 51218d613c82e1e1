# frozen_string_literal: true

module Loomshuttle
  module Web
    # Rejects edits that would damage the take being captured. Somebody can unlock edits for a while; the lock returns automatically. If the
    # recorder is offline, its last known take counts.
    class CaptureGuard
      # Seconds that it stays open.
      OPEN = 60

      # @param capturing [Proc] returns the take being captured (number and name), or nil
      # @param now [Proc] monotonic time in seconds
      def initialize(capturing, now: Runtime::Clock.method(:now))
        @capturing, @now = capturing, now
        @open_until = -1
      end

      # Allows harmful edits for a while (OPEN seconds).
      def open = @open_until = @now.call + OPEN
      def close = @open_until = -1

      # @return [Boolean] whether it refuses harmful edits now
      def closed? = !@capturing.call.nil? && @now.call >= @open_until

      # @param show [Settings::Show] @param changes [Array<Settings::Change>]
      # @raise [Invalid] if they would harm the take being captured
      def edit(show, changes)
        return unless closed?

        harm = Settings::DuringCapture.of(show, changes).first or return
        stop("changing \"#{Settings::Telling.setting(show, harm.path)}\"")
      end

      # @param what [String] the action, such as "opening another show"
      # @raise [Invalid] if a take is being captured
      def whole(what)
        stop(what) if closed?
      end

      private

      def stop(what)
        take = @capturing.call
        raise Invalid.new("Blocked during take #{take['number']}: #{what} would damage it. Unlock edits in Capture, or end the take.", where: "guard")
      end
    end
  end
end
