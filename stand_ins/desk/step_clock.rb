# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # When the desk's steps are due. Late ones are caught up with slowly, since whoever answers with card returns needs most of a step's time for it; what
      # a machine that is too busy holds up for longer is not caught up with, and the desk's clock has then stood still.
      class StepClock
        # So late (seconds) a step may be; and so close, in parts of a step, the next one follows it.
        LATE, CLOSEST = 1.0, 0.8

        # @param step [Float] seconds of one   @param now [Float] seconds, when the first begins
        def initialize(step, now)
          @step = step
          @even = @begun = now
        end

        # @return [Float] seconds, when the next one is to begin
        def due = [@even + @step, @begun + (CLOSEST * @step)].max

        # It begins. @param now [Float] seconds
        def begin(now)
          @begun = now
          @even = [@even + @step, now - LATE].max
        end
      end
    end
  end
end
