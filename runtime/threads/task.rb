# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # A thread with a name that does one thing and then ends (a Worker does it again and again). An error inside it is logged, counted in
    # Health, and ends nothing else.
    class Task
      # @return [String]
      attr_reader :name

      # @param name [String] what the thread does, e.g. "reads a caller"
      # @param priority [Integer] of the thread; below 0 for work that must not hold up others
      # @yieldreturn [Object] its result
      # @return [Task] already at work
      def self.start(name, priority: 0, &work) = new(name, priority, work)

      def initialize(name, priority, work)
        @name = name
        @thread = Thread.new { guarded(work) }
        @thread.name = name
        @thread.priority = priority
        @thread.report_on_exception = false
      end

      def alive? = @thread.alive?

      # @param seconds [Numeric, nil] longest wait; nil until it ends
      # @return [Task, nil] nil if it has not ended
      def join(seconds = nil) = @thread.join(seconds) && self

      # Waits until it ends.
      # @return [Object, nil] the result; nil if it failed
      def value = @thread.value

      private

      def guarded(work)
        work.call
      rescue StandardError => e
        Health.trouble(e, name)
        nil
      end
    end
  end
end
