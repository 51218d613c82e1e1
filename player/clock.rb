# frozen_string_literal: true

module Loomshuttle
  module Player
    # The clock of where it plays, told by packets: 32-bit timestamps as a count that only grows, and anew where the other side began anew.
    class Clock
      # Further ahead of or behind what was told before than this (samples), and it is believed after so many packets that follow on each
      # other; strangers' do not.
      FAR, NEAR, AGREE = 24_000, 4800, 3

      # @return [Integer, nil] newest time
      attr_reader :time
      # @return [Integer] how often it began anew
      attr_reader :restarts

      def initialize
        @restarts = 0
        @odd = 0
      end

      # @param timestamp [Integer] of 32 bits
      # @return [Symbol, nil] :on, or :anew where the time is another one; nil for what is not believed
      def hear(timestamp)
        return begin_at(timestamp) unless @time

        step = Formats::Rtp.distance(@time % Formats::Rtp::TIMESTAMPS, timestamp, Formats::Rtp::TIMESTAMPS)
        return elsewhere(timestamp) if step.abs > FAR

        @odd = 0
        @time += step if step.positive?
        :on
      end

      private

      def elsewhere(timestamp)
        follows = @last && Formats::Rtp.distance(@last, timestamp, Formats::Rtp::TIMESTAMPS).between?(1, NEAR)
        @odd = follows ? @odd + 1 : 1
        @last = timestamp
        return if @odd < AGREE

        @restarts += 1
        begin_at(timestamp)
      end

      def begin_at(timestamp)
        @odd, @last = 0, nil
        @time = timestamp
        :anew
      end
    end
  end
end
