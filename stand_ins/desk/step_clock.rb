# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # When the desk's steps are due. It catches up slowly, since whoever answers with card returns needs most of a step's time. A delay of
      # more than LATE is not made up: the desk's clock has then stood still.
      class StepClock
        # Longest delay that is made up (seconds), and shortest distance between two steps (in steps).
        LATE, CLOSEST = 1.0, 0.8

        # @param step [Float] length of a step in seconds   @param now [Float] time at which the first begins, in seconds
        def initialize(step, now)
          @step = step
          @even = @begun = now
        end

        # @return [Float] time at which the next step should begin, in seconds
        def due = [@even + @step, @begun + (CLOSEST * @step)].max

        # Notes that a step begins. @param now [Float] time in seconds
        def begin(now)
          @begun = now
          @even = [@even + @step, now - LATE].max
        end
      end
    end
  end
end
