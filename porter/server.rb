# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Porter
    # The porter as a process, with one thread that does one job after the other. A job that was interrupted is continued; one that keeps ending the
    # porter is not retried. An error in a job concerns only that job.
    class Server
      KINDS = { "export" => Export, "bring-in" => BringIn, "song" => BringSong, "render" => RenderSong, "vary" => VarySong }.freeze
      LOOK = 0.5
      # A job that was begun so often and never came to an end has ended the porter.
      TRIES = 3

      # @param home [String] folder of this instance
      # @param cautious [Boolean] whether to leave started jobs alone, because the porter has crashed repeatedly
      def initialize(home:, cautious: false)
        @jobs, @takes, @cautious = File.join(home, "jobs"), File.join(home, "takes"), cautious
        @over = {}
        @wake = Runtime::Wakeup.new
        FileUtils.mkdir_p(@jobs)
        @home = home
      end

      # Runs until stop.
      def run
        Runtime::Priority.last
        Runtime::Spool.use(@home, "porter")
        until @stopped
          begin
            job = Job.open(@jobs, @index ||= Job.index(@jobs)).find { |one| !@over.key?(one.id) }
            job ? work(job) : @wake.wait(LOOK)
            tell_again
          rescue StandardError => e
            Runtime::Health.trouble(e, "looking for jobs")
            @wake.wait(1)
          end
        end
      end

      # Can be called from a signal handler.
      def stop = @stopped = true

      # Does one job.
      # @param job [Job]
      def work(job)
        return give_up(job) if job["state"] == "running" && (@cautious || job["tries"].to_i >= TRIES)

        job.update(state: "running", tries: job["tries"].to_i + 1)
        job.check
        KINDS.fetch(job["kind"]).new(job, stopped: -> { @stopped }, room: Room.new(job["place"] || job.folder, @takes)).run
      rescue Job::Cancelled
        over(job, state: "cancelled")
      rescue Job::Stopped
        tell(job, tries: 0) # the next start goes on with it
      rescue StandardError => e
        Runtime::Log.surprise(e, "job #{job.id}") unless e.is_a?(Invalid)
        over(job, state: "failed", error: words(e))
      end

      private

      def words(error)
        return Text.readable(error.message, most: 600) if error.is_a?(SystemCallError) || error.is_a?(Invalid)

        "Failed (#{error.class}). See the porter's log."
      end

      def give_up(job) = over(job, state: "failed", error: "Failed #{job['tries']} times; will not retry.")

      # What was half made goes first, for that may be what filled the disk.
      def over(job, **changes)
        FileUtils.rm_rf(job.work)
        FileUtils.rm_f(Runtime::Files.matching(job.folder, "*.part"))
        tell(job, **changes)
      end

      # A disk that is full hinders no other job: what could not be written is tried again later.
      def tell(job, **changes)
        job.update(**changes)
        @over.delete(job.id)
      rescue SystemCallError => e
        Runtime::Health.trouble(e, "telling of job #{job.id}")
        @over[job.id] = [job, changes]
      end

      def tell_again = @over.each_value { |job, changes| File.exist?(job.path(Job::FILE)) ? tell(job, **changes) : @over.delete(job.id) }
    end
  end
end
