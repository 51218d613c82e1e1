# frozen_string_literal: true

module Loomshuttle
  module Porter
    # The porter as a process: one thread that does one job after the other. A job that was under way when it ended is gone on with.
    class Server
      KINDS = { "export" => Export, "bring-in" => BringIn }.freeze
      LOOK = 0.3

      # @param home [String] folder of this instance
      def initialize(home:)
        @jobs = File.join(home, "jobs")
        FileUtils.mkdir_p(@jobs)
      end

      # Runs until stop.
      def run
        come_last
        until @stopped
          job = Job.open(@jobs).first
          job ? work(job) : sleep(LOOK)
        end
      end

      def stop = @stopped = true

      # Does one job.
      # @param job [Job]
      def work(job)
        job.update(state: "running")
        job.check
        KINDS.fetch(job["kind"]).new(job, stopped: -> { @stopped }).run
      rescue Job::Cancelled
        job.update(state: "cancelled")
        FileUtils.rm_rf(job.path("work"))
      rescue Stopped
        nil # the next start goes on with it
      rescue SystemCallError, Invalid, KeyError => e
        job.update(state: "failed", error: e.message)
      end

      private

      # Sound comes first.
      def come_last
        Process.setpriority(Process::PRIO_PROCESS, 0, 10)
      rescue SystemCallError
        nil
      end
    end
  end
end
