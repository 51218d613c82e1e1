# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # When the desk's steps are due. It catches up slowly, since whoever answers with card returns needs most of a step's time. A delay of
      # more than LATE is not made up: the desk's clock has then stood still.
      class StepClock
        # Longest delay that is made up (seconds), and shortest distance between two steps (in steps).
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
