# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Recorder
    # Measures how long it takes from a return out through the desk (and whatever hangs on it) and back in by a send: plays a burst
    # of noise and finds it again by correlation.
    class RoundTrip
      BURST = 1024
      # Full scale 1.0 is far above this: nobody shall be startled.
      AMPLITUDE = 0.125
      # It is listened for so long after the burst left (seconds).
      LONGEST = 1
      # A burst that comes back with less than this of its shape is none (correlation).
      LIKE = 0.5

      # The burst for a Player: silence before and behind it.
      class Burst
        attr_reader :position, :from, :to, :loop

        # @param lane [Integer] return (1-based)   @param lanes [Integer] returns of the card   @param rate [Integer]
        def initialize(lane, lanes, rate)
          @lane, @lanes = lane, lanes
          @from = @position = 0
          @to = BURST + (LONGEST * rate)
          @loop = false
        end

        def read(count)
          block = Numo::Int32.zeros(count, @lanes)
          rows = [BURST - @position, count].min
          block[0...rows, @lane - 1] = RoundTrip.burst[@position...(@position + rows)] if rows.positive?
          @position += count
          block
        end

        def place(frame) = [frame, @to].min
        def lanes_played = [@lane]
        def done? = @position >= @to
        def close = nil
      end

      # @return [Numo::Int32] [BURST], the same each time
      def self.burst
        @burst ||= begin
          random = Random.new(48)
          Numo::Int32.cast(Array.new(BURST) { ((random.rand * 2) - 1) * AMPLITUDE * Audio::Pcm24::FULL_SCALE })
        end
      end

      # @param input [Integer] send (1-based) on which it returns
      # @param started [Proc] returns the position at which the burst left, nil before   @param rate [Integer]
      def initialize(input, started, rate)
        @input, @started, @longest = input - 1, started, LONGEST * rate
        @heard = []
        @frames = 0
      end

      # @param batch [Batch]
      def add(batch)
        left = @started.call or return
        return if heard?

        part = batch.from(left) or return
        first, lanes, bytes = part.streams.find { |start, width, _| @input.between?(start, start + width - 1) }
        return @heard.clear && (@frames = 0) unless bytes # what it was in did not come

        @heard << Audio::Pcm24.from_network(bytes, lanes)[true, @input - first]
        @frames += part.frames
      end

      def heard? = @frames >= @longest + BURST

      # @return [Integer, nil] samples between leaving and returning; nil if it did not return
      def frames
        sound = Numo::DFloat.cast(Numo::Int32.hstack(@heard)[0...(@longest + BURST)])
        burst = Numo::DFloat.cast(RoundTrip.burst)
        at = (0...@longest).max_by { |start| sound[start...(start + BURST)].dot(burst).abs }
        found = sound[at...(at + BURST)]
        energy = Math.sqrt(found.dot(found) * burst.dot(burst))
        at if energy.positive? && found.dot(burst).abs / energy >= LIKE
      end
    end
  end
end
