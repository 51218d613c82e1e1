# frozen_string_literal: true

module Loomshuttle
  module Audio
    # Peak and RMS over many blocks of the same lanes.
    class LevelSum
      # @param lanes [Integer]
      def initialize(lanes)
        @peaks = Array.new(lanes, 0.0)
        @squares = Array.new(lanes, 0.0)
        @frames = 0
      end

      # @param frames [Integer] of a block
      # @param peaks [Array<Float>] amplitudes of its lanes
      # @param mean_squares [Array<Float>]
      def add(frames, peaks, mean_squares)
        @frames += frames
        peaks.each_with_index { |peak, lane| @peaks[lane] = peak if peak > @peaks[lane] }
        mean_squares.each_with_index { |square, lane| @squares[lane] += square * frames }
      end

      # @return [Float] dBFS over the given lanes
      def peak_dbfs(lanes) = Level.dbfs(lanes.map { |lane| @peaks[lane] }.max || 0)

      # @return [Float] dBFS RMS by AES17 over the given lanes
      def rms_dbfs(lanes)
        return Level::SILENCE_DB if @frames.zero? || lanes.empty?

        Level.rms_of(lanes.sum { |lane| @squares[lane] } / @frames / lanes.size)
      end
    end
  end
end
