# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Supervisor
    # Keeps PostgreSQL running, in its own thread, because a start may take half a minute and the other parts must be watched during that time.
    # Its thread:
    #   database   looks twice a second, and starts it with growing pauses while it does not start
    class DatabaseKeeper
      LOOK = 0.5
      LONGEST = 60

      # @param postgres [Postgres]
      # @param tell [Proc] called with sentences for people
      def initialize(postgres, tell:)
        @postgres, @tell = postgres, tell
        @pause = Postgres::PATIENCE
      end

      # Starts the server for the first time.
      # @raise [Failed] if there is no cluster and none can be created; a cluster that does not start is tried again later
      def begin
        @postgres.start
        seed
      rescue Failed => e
        raise unless @postgres.made?

        trouble(e.message)
      end

      def start = @worker = Runtime::Worker.start("database") { |worker| look(worker) }

      # @return [Hash] as Child#report
      def report = { "name" => "database", "state" => @words ? "given up" : "running", "words" => @words }

      def stop
        @worker&.stop(seconds: 40)
        @postgres.stop if @postgres.made?
      end

      private

      def look(worker)
        words = @postgres.watch(@pause)
        if words.nil?
          seed unless @seeded || @postgres.gone?
          return worker.rest(LOOK)
        end
        @postgres.alive? ? well(words) : trouble("#{words} It is tried again; everything but the plan works on.")
        worker.rest(LOOK)
      end

      def well(words)
        @pause = Postgres::PATIENCE
        @words = nil
        @tell.call(words)
      end

      def trouble(words)
        @pause = [@pause * 2, LONGEST].min
        @tell.call(words) unless words == @words
        @words = words
      end

      def seed
        Seed.run(@postgres.url)
        @seeded = true
      rescue Sequel::Error => e
        trouble("The database does not answer: #{e.message.lines.first&.strip}")
      end
    end
  end
end
