# frozen_string_literal: true

module Loomshuttle
  module Player
    # The loudest of each output, until they are told.
    class Levels
      attr_reader :frames

      # @param outputs [Integer]
      def initialize(outputs)
        @outputs = outputs
        clear
      end

      # @param block [Numo::SFloat] [outputs, frames]
      def add(block)
        peaks = block.abs.max(axis: 1).to_a
        @peaks = @peaks.zip(peaks).map(&:max)
        @frames += block.shape[1]
      end

      # @return [Hash] "outputs" in dBFS; everything begins anew
      def take = { "outputs" => @peaks.map { |peak| decibels(peak) } }.tap { clear }

      private

      def clear
        @peaks, @frames = [0.0] * @outputs, 0
      end

      def decibels(peak) = Audio::Level.dbfs(peak).round(1)
    end
  end
end
