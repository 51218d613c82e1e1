# frozen_string_literal: true

require "time"

module Loomshuttle
  module Runtime
    # A named thread that does one thing again and again. An error inside is logged with time and place and counted in Health; then the worker
    # continues, after a pause that grows while the error lasts. One bad take, job or message never ends it.
    class Worker
      # For threads that compute while people wait for answers. Ruby gives them turns of 12.5 ms instead of 100 ms, and an edit, which queries the
      # database six times, waits for such a turn each time.
      PATIENT = -3
      # Seconds between two tries in trouble: at first, and at most.
      FIRST, LONGEST = 0.05, 5.0
      # The same words are logged again after this (seconds).
      AGAIN = 30

      attr_reader :name, :troubles, :last_trouble, :last_at

      # @param name [String] what the thread does, e.g. "follows takes"
      # @param priority [Integer] of the thread; below 0 for work that must not hold up others
      # @yieldparam worker [Worker] one turn: does something, or waits for something; called until `stop`
      # @return [Worker] already at work
      def self.start(name, priority: 0, &turn) = new(name, priority, turn).tap(&:begin)

      def initialize(name, priority, turn)
        @name, @priority, @turn = name, priority, turn
        @troubles = 0
        @pause = FIRST
        @stopping = Wakeup.new
      end

      def begin
        @thread = Thread.new { run }
        @thread.name = @name
        @thread.priority = @priority
        @thread.report_on_exception = false
        Health.add(self)
        self
      end

      # @return [Boolean] whether it was asked to stop
      def stopped? = @stopped == true
      def alive? = @thread&.alive? == true

      # Asks the thread to stop, and kills it if it does not: what it waits for may never come.
      # @param seconds [Numeric] how long to wait for the present turn to end
      def stop(seconds: 0.05)
        @stopped = true
        @stopping.wake
        return if Thread.current == @thread

        @thread&.join(seconds) || @thread&.kill&.join(1)
        Health.remove(self)
      end

      # Waits, unless it was asked to stop.
      def rest(seconds) = stopped? || @stopping.wait(seconds)

      # @return [Hash] for health
      def report = { "name" => name, "alive" => alive?, "troubles" => troubles, "last_trouble" => last_trouble, "last_at" => last_at&.iso8601 }

      private

      def run
        until stopped?
          begin
            @turn.call(self)
            @pause = FIRST
          rescue StandardError => e
            trouble(e)
          end
        end
      rescue Exception => e # rubocop:disable Lint/RescueException
        Log.surprise(e, "#{name} has ended")
      end

      def trouble(error)
        @troubles += 1
        words = "#{error.class}: #{Text.readable(error.message, most: 300)}"
        Log.surprise(error, name) unless words == @last_trouble && Time.now - @last_at < AGAIN
        @last_trouble, @last_at = words, Time.now
        rest(@pause)
        @pause = [@pause * 2, LONGEST].min
      end
    end
  end
end
