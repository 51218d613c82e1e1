# frozen_string_literal: true

require "open3"

module Loomshuttle
  module Porter
    # Runs another program for a job, and ends it when the job is cancelled or the porter stops.
    class Attended
      # How often the job is looked at (seconds).
      LOOK = 0.2

      # @param job [Job]   @param stopped [Proc] returns whether the porter has to stop   @param seconds [Integer] time limit   @param where [String] named in errors
      def initialize(job, stopped:, seconds:, where:)
        @job, @stopped, @seconds, @where = job, stopped, seconds, where
      end

      # @param command [Array<String>] @param input [String, nil] for its standard input
      # @yield after each look at the job
      # @return [Array(String, Boolean)] the end of its output, and whether it succeeded
      # @raise [Job::Cancelled] @raise [Job::Stopped]   @raise [Invalid] when it takes too long   @raise [SystemCallError] if there is no such program
      def run(*command, input: nil)
        stdin, output, process = Open3.popen2e(*command)
        said = listen(output)
        stdin.write(input) if input
        stdin.close
        deadline = Runtime::Clock.now + @seconds
        until process.join(LOOK)
          look(deadline)
          yield if block_given?
        end
        [said.value.dup.force_encoding(Encoding::UTF_8).scrub, process.value.success?]
      ensure
        Process.kill(:KILL, process.pid) if process&.alive?
        said&.join(1)
        output&.close
      end

      private

      # So that a program with much to say never waits for somebody to hear it.
      def listen(output)
        Runtime::Task.start("reads a program's output") do
          kept = "".b
          while (part = output.readpartial(4096))
            kept = (kept << part).byteslice(-8192, 8192) || kept
          end
        rescue IOError
          kept
        end
      end

      def look(deadline)
        @job.check
        raise Job::Stopped if @stopped.call
        raise Invalid.new("It took longer than #{@seconds / 60} minutes.", where: @where) if Runtime::Clock.now > deadline
      end
    end
  end
end
