# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # Peak and RMS over many blocks of the same lanes.
    class LevelSum
      # @param lanes [Integer]
      def initialize(lanes)
        @peaks, @squares = Array.new(2) { Numo::DFloat.zeros(lanes) }
        @frames = 0
      end

      # @param frames [Integer] length of a block
      # @param peaks [Numo::DFloat, Array<Float>] amplitudes of its lanes
      # @param mean_squares [Numo::DFloat, Array<Float>]
      def add(frames, peaks, mean_squares)
        @frames += frames
        @peaks = Numo::DFloat.maximum(@peaks, peaks)
        @squares += Numo::DFloat.cast(mean_squares) * frames
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
