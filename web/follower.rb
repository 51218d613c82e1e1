# frozen_string_literal: true

module Loomshuttle
  module Web
    # Lets desk and recorder follow the plan, edit by edit and in order, on one thread of its own, so that whoever edits
    # need not wait for a desk that answers slowly.
    class Follower
      # One edit to be followed: the show before and after it. `wait` gives what the desk did not take.
      class Job
        attr_reader :before, :after

        def initialize(before, after)
          @before, @after = before, after
          @done = Queue.new
        end

        # @param problems [Array<String>]
        def finish(problems) = @done << problems

        # @return [Array<String>] sentences; empty when all is read back equal
        def wait = @done.pop
      end

      # Seconds that an edit nobody waits for is left alone, so that the screens of those who watch come first.
      PAUSE = 0.08

      # @param sync [Desk::Sync]
      # @param recorder [Proc] takes the show after an edit of tracks or setup
      # @param on_done [Proc] takes problems, when an edit has been followed
      def initialize(sync, recorder:, on_done:)
        @sync, @recorder, @on_done = sync, recorder, on_done
        @jobs = []
        @lock = Mutex.new
        @more = ConditionVariable.new
      end

      def start
        @thread = Thread.new { loop { work(take) } }
      end

      def stop = @thread&.kill

      # @return [Boolean] whether an edit waits to be followed
      def pending? = @lock.synchronize { @working || @jobs.any? }

      # @param before [Patch::Show]  @param after [Patch::Show]
      # @param soon [Boolean] whether somebody waits for it
      # @return [Job]
      def follow(before, after, soon: false)
        job = Job.new(before, after)
        @lock.synchronize do
          @jobs << job
          @soon ||= soon
          @more.signal
        end
        job
      end

      private

      def take
        @lock.synchronize do
          @working = false
          @more.wait(@lock) while @jobs.empty?
          @more.wait(@lock, PAUSE) unless @soon
          @working = true
          @jobs.shift.tap { @soon &&= @jobs.any? }
        end
      end

      def work(job)
        problems = []
        @recorder.call(job.after) unless [job.before, job.after].map { |show| [show.tracks, show.sends, show.channels, show.setup] }.uniq.size == 1
        problems = @sync.follow(job.before, job.after)
      rescue StandardError => e
        warn e.full_message(highlight: false)
        problems = ["The desk could not follow: #{e.message}"]
      ensure
        job.finish(problems)
        @on_done.call(problems)
      end
    end
  end
end
