# frozen_string_literal: true

module Loomshuttle
  module Web
    # How the application is, part by part and thread by thread (schema Health).
    class Health
      # @param control [Control]
      def initialize(control)
        @control = control
      end

      def to_h
        answers = { database: @control.shows.answers?, recorder: @control.recorder.up?, desk: @control.desk.up? }
        { **answers, ok: answers.values.all?, parts: @control.parts.all, aside: @control.parts.aside, threads: threads, troubles: Runtime::Health.troubles }
      end

      private

      # Of this process, and of the recorder as far as it answers.
      def threads
        own = Runtime::Health.threads.map { |thread| thread.merge("part" => "web") }
        theirs = @control.recorder.up? ? @control.recorder.call("health", within: 1)["threads"].map { |thread| thread.merge("part" => "recorder") } : []
        own + theirs
      rescue RecorderLink::Away, Invalid
        own.to_a
      end
    end
  end
end
