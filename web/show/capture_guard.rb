# frozen_string_literal: true

module Loomshuttle
  module Web
    # Rejects edits that would damage the take being captured. Somebody can unlock edits for a while; the lock returns automatically. If the
    # recorder is offline, its last known take counts.
    class CaptureGuard
      # Seconds that it stays open.
      OPEN = 60

      # @param capturing [Proc] gives the take under way (number and name), or nil
      # @param now [Proc] seconds that only grow
      def initialize(capturing, now: Runtime::Clock.method(:now))
        @capturing, @now = capturing, now
        @open_until = -1
      end

      # Lets harm through for a while.
      def open = @open_until = @now.call + OPEN
      def close = @open_until = -1

      # @return [Boolean] whether it stands between harm and a take now
      def closed? = !@capturing.call.nil? && @now.call >= @open_until

      # @param show [Settings::Show] @param changes [Array<Settings::Change>]
      # @raise [Invalid] when they would harm a take
      def edit(show, changes)
        return unless closed?

        harm = Settings::DuringCapture.of(show, changes).first or return
        stop("changing \"#{Settings::Telling.setting(show, harm.path)}\"")
      end

      # @param what [String] what would be done, such as "opening another show"
      # @raise [Invalid] when a take is captured
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
