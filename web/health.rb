# frozen_string_literal: true

module Loomshuttle
  module Web
    # The state of the application, for each process and thread (schema Health).
    class Health
      # @param control [Control]
      def initialize(control)
        @control = control
      end

      def to_h
        answers = { database: @control.shows.answers?, recorder: @control.recorder.up?, player: @control.order.up?, desk: @control.desk.up? }
        { **answers, ok: answers.values.all?, parts: @control.parts.all, aside: @control.parts.aside, threads: threads, troubles: Runtime::Health.troubles }
      end

      private

      # Of this process, and of recorder and player as far as they answer.
      def threads
        own = Runtime::Health.threads.map { |thread| thread.merge("part" => "web") }
        own + { "recorder" => @control.recorder, "player" => @control.order.link }.flat_map { |part, link| of(part, link) }
      end

      def of(part, link)
        return [] unless link.up?

        link.call("health", within: 1)["threads"].map { |thread| thread.merge("part" => part) }
      rescue Away, Invalid
        []
      end
    end
  end
end
