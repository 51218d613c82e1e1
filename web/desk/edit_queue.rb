# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Sends edits to the desk in order, in its own thread, so that whoever edits does not wait for a slow desk. The recorder gets the plan
      # separately (PlanSender). Its thread:
      #   desk follows   does one job after the other
      class EditQueue
        # One thing to be done at the desk. `wait` gives what the desk did not take.
        class Job
          # @param work [Proc] returns problems as sentences
          def initialize(work)
            @work = work
            @done = Runtime::Mailbox.new(most: 1)
          end

          def run = @work.call

          # @param problems [Array<String>]
          def finish(problems) = @done << problems

          # @param seconds [Numeric]
          # @return [Array<String>] problems as sentences; empty if everything was read back as set
          def wait(seconds) = @done.pop(seconds) || ["The desk did not confirm within #{seconds.round(1)} s. Compare plan and desk."]
        end

        # Seconds that an edit nobody waits for is left alone, so that the screens of those who watch come first.
        PAUSE = 0.08
        # Jobs that wait at most: where a desk hangs, the newest plan is compared with it anyway.
        MOST = 200

        # @param sync [Sync]
        # @param on_done [Proc] called with the problems of each finished job
        def initialize(sync, on_done:)
          @sync, @on_done = sync, on_done
          @jobs = []
          @lock = Mutex.new # held for moments, never while a job is done
          @more = ConditionVariable.new
        end

        def start
          @worker = Runtime::Worker.start("desk follows", priority: Runtime::Worker::PATIENT) { work(take) }
        end

        def stop = @worker&.stop

        # @return [Boolean] whether anything is still to be sent
        def pending? = @lock.synchronize { @working || @jobs.any? }

        # @param before [Settings::Show]  @param after [Settings::Show]
        # @param soon [Boolean] whether somebody is waiting for it
        # @return [Job]
        def follow(before, after, soon: false) = add(Job.new(-> { @sync.follow(before, after) }), soon)

        # Runs work before everything that is waiting.
        # @yieldreturn [Array<String>] problems
        # @return [Job]
        def now(&work) = add(Job.new(work), true, first: true)

        private

        def add(job, soon, first: false)
          @lock.synchronize do
            first ? @jobs.unshift(job) : @jobs.push(job)
            @jobs.delete_at(1).finish(["The desk cannot keep up with the edits; some were not sent."]) if @jobs.size > MOST
            @soon ||= soon
            @more.signal
          end
          job
        end

        # @return [Job, nil]
        def take
          @lock.synchronize do
            @working = false
            @more.wait(@lock, 1) if @jobs.empty?
            next if @jobs.empty?

            @more.wait(@lock, PAUSE) unless @soon
            @working = true
            @jobs.shift.tap { @soon &&= @jobs.any? }
          end
        end

        def work(job)
          return unless job

          problems = []
          begin
            problems = job.run
          rescue StandardError => e
            Runtime::Log.surprise(e, "following at the desk")
            problems = ["The desk could not follow: #{e.message}"]
          end
          job.finish(problems)
          @on_done.call(problems)
        end
      end
    end
  end
end
