# frozen_string_literal: true

module Loomshuttle
  module Player
    # The peak of each output since it was last reported.
    class Levels
      attr_reader :frames

      # @param outputs [Integer]
      def initialize(outputs)
        @outputs = outputs
        @limited = [0] * outputs
        clear
      end

      # @param block [Numo::SFloat] [outputs, frames]
      def add(block)
        @loudest, @loudest_of = loudest(block), block unless block.frozen? && block.equal?(@loudest_of)
        @peaks = @peaks.zip(@loudest).map(&:max)
        @frames += block.shape[1]
      end

      # @param output [Integer] from 1   @param where [Numo::Bit] [frames] true for samples beyond full scale
      def limited(output, where) = @limited[output - 1] += where.count_true

      # @param where [Numo::Bit] as limited, [outputs, frames]
      def all_limited(where)
        where.shape[0].times { |at| limited(at + 1, where[at, true]) }
      end

      # @return [Array<Hash>] output and number of clipped samples since the song began; only outputs that clipped
      def told_limited = @limited.each_with_index.filter_map { |samples, at| { "output" => at + 1, "samples" => samples } if samples.positive? }

      # Starts counting from zero for a song.
      def forget_limited = @limited = [0] * @outputs

      # @return [Hash] "outputs" in dBFS; resets the peaks
      def take = { "outputs" => @peaks.map { |peak| decibels(peak) } }.tap { clear }

      private

      def loudest(block)
        low, high = block.minmax(axis: 1)
        high.to_a.zip(low.to_a).map { |up, down| [up, -down].max }
      end

      def clear
        @peaks, @frames = [0.0] * @outputs, 0
      end

      def decibels(peak) = Audio::Level.dbfs(peak).round(1)
    end
  end
end
