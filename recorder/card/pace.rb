# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The rate at which samples arrive, by this computer's clock. Packets can be late but never early, so the first packet of each second counts, at
    # both ends of the measured time.
    class Pace
      # Seconds that are looked at, of each end, and that lie between both ends at least.
      WINDOW, EDGE, LEAST = 60, 5, 30
      # What is further off is not a clock that runs wrong: nothing comes, or in fits.
      BELIEVED = (0.8..1.2)

      # @param rate [Integer] nominal samples per second
      def initialize(rate)
        @rate = rate
        restart
      end

      # Forgets what was counted so far.
      def restart = @seconds = []

      # @param now [Float] monotonic time in seconds   @param position [Integer] samples so far
      def note(now, position)
        second, lead = now.floor, position - (now * @rate)
        last = @seconds.last
        return @seconds[-1] = [second, lead, now, position] if last && last[0] == second && lead > last[1]
        return if last && last[0] >= second

        @seconds << [second, lead, now, position]
        @seconds.shift if @seconds.size > WINDOW
      end

      # @return [Float, nil] measured samples per second; nil until it is known
      def hz
        first, last = [@seconds.first(EDGE), @seconds.last(EDGE)].map { |edge| edge.max_by { |_, lead, _, _| lead } }
        return if first.nil? || last[2] - first[2] < LEAST

        hz = (last[3] - first[3]) / (last[2] - first[2])
        hz.round(1) if BELIEVED.cover?(hz / @rate)
      end
    end
  end
end
