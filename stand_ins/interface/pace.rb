# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Interface
      # How far the interface may run: with a word clock, in small steps from one message to the next; otherwise freely.
      class Pace
        # Frames of the word clock's step; without it for so long (seconds), the interface goes on alone.
        STEP, ALONE = 480, 0.1
        # Further away than this (frames), and the clock has started again.
        FAR = 4800
        # It is looked again after this (seconds).
        LONGEST = 0.02

        # @param block [Integer] frames of the interface's steps
        def initialize(rate, block)
          @rate, @block = rate, block
          @base = @from = nil
        end

        # @param time [Integer] received counter   @param now [Numeric] seconds
        def heard(time, now)
          @base, @from, @alone = time, now, false
        end

        # @param time [Integer] of the interface   @param now [Numeric] seconds
        # @return [Integer, nil] the time to jump to; nil to go on
        def elsewhere(time, now)
          @base, @from, @alone = time, now, true if @base.nil?
          @base if !@alone && (time - @base).abs > FAR
        end

        # @return [Boolean] whether the next step may run
        def may?(time, now) = time + @block <= upto(now)

        # @return [Float] seconds until the next step may be due
        def wait(time, now)
          # With all steps done, the next word is waited for.
          return LONGEST if !@alone && time + @block > @base + STEP

          due = @from + ((time + @block - @base - (@alone ? 0 : @block)) / @rate.to_f)
          (due - now).clamp(0.0, LONGEST)
        end

        private

        def upto(now)
          gone = ((now - @from) * @rate).floor
          return @base + gone if @alone || gone > ALONE * @rate

          @base + [STEP, @block + (gone / @block * @block)].min
        end
      end
    end
  end
end
