# frozen_string_literal: true

module Loomshuttle
  module Player
    # The loudest of each output and of each source, until they are told.
    class Levels
      attr_reader :frames

      # @param outputs [Integer]
      def initialize(outputs)
        @outputs = outputs
        clear
      end

      # @param block [Numo::SFloat] [outputs, frames]   @param sources [Hash{Object=>Float}] amplitudes
      def add(block, sources)
        peaks = block.abs.max(axis: 1).to_a
        @peaks = @peaks.zip(peaks).map(&:max)
        sources.each { |source, peak| @sources[source] = [@sources.fetch(source, 0.0), peak].max }
        @frames += block.shape[1]
      end

      # @return [Hash] "outputs" in dBFS, and "sources" by name; everything begins anew
      def take
        { "outputs" => @peaks.map { |peak| decibels(peak) }, "sources" => @sources.to_h { |source, peak| [source.to_s, decibels(peak)] } }.tap { clear }
      end

      private

      def clear
        @peaks, @sources, @frames = [0.0] * @outputs, {}, 0
      end

      def decibels(peak) = Audio::Level.dbfs(peak).round(1)
    end
  end
end
