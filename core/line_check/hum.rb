# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # Mains hum: a steady line at 50 or 60 Hz with harmonics, unlike anything that is played. Reported once a second.
    class Hum
      MAINS = [50, 60].freeze
      # So many lines of each are looked at; none is common to both.
      LINES = 5
      # All lines that are looked at, in Hz.
      FREQUENCIES = MAINS.flat_map { |mains| (1..LINES).map { |n| mains * n } }.freeze
      # Seconds that are compared, and how many it takes at least: in fewer, one of four stretches of mere hiss keeps still enough.
      SECONDS = 6
      LEAST = 5
      # What swings more than this (dB) within them is played, or hiss. With five seconds one of two thousand stretches of white noise is taken for
      # hum, and hum that lies 10 dB below the hiss as a whole is found in four of ten (measured).
      STEADY_DB = 3.0
      # A line counts when it is within this of the strongest (dB); at least two have to.
      LINE_DB = 26.0
      # Hum this far below the loud parts is not worth a word (common practice, no published source).
      QUIET_DB = 36.0
      FLOOR_DB = -75.0

      # What was found: mains in Hz, level in dBFS RMS, harmonics in Hz that it has.
      Found = Value.define(:mains, :level, :lines)

      # @param block [Numo::DFloat] a second, [frames, lanes]
      # @param rate [Integer] of the block
      # @return [Array<Array<Float>>] for each lane the amplitudes at FREQUENCIES
      def self.lines(block, rate) = Audio::SpectralLines.amplitudes(block, FREQUENCIES, rate).transpose.to_a

      def initialize = reset
      def reset = @seconds = []

      # @param amplitudes [Array<Float>] at FREQUENCIES
      def add(amplitudes)
        @seconds << amplitudes
        @seconds.shift if @seconds.size > SECONDS
      end

      # @param loud [Float, nil] dBFS RMS of the source's loud passages
      # @return [Found, nil]
      def found(loud)
        return if @seconds.size < LEAST

        MAINS.each_with_index.filter_map { |mains, at| look(mains, at * LINES, loud) }.max_by(&:level)
      end

      private

      # AES17: a sine of amplitude 1 reads 0 dBFS RMS, so amplitudes add as squares.
      def look(mains, first, loud)
        levels = @seconds.map { |second| Audio::Level.dbfs(Math.sqrt(second[first, LINES].sum { |one| one * one })) }
        return if levels.min < [FLOOR_DB, loud ? loud - QUIET_DB : FLOOR_DB].max || levels.max - levels.min > STEADY_DB

        lines = standing(mains, first)
        Found.new(mains: mains, level: levels.min, lines: lines) if lines.size >= 2
      end

      def standing(mains, first)
        strengths = (0...LINES).map { |n| @seconds.map { |second| Audio::Level.dbfs(second[first + n]) } }
        top = strengths.map(&:min).max
        (0...LINES).select { |n| strengths[n].min >= top - LINE_DB && strengths[n].max - strengths[n].min <= STEADY_DB }.map { |n| mains * (n + 1) }
      end
    end
  end
end
