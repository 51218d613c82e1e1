# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Gaps in a take. Consecutive ones are joined. The list stays short enough to be written twice a second, however bad the network; the totals
    # stay exact.
    class GapLog
      MOST = 400

      # @return [Integer] gaps, and frames in them over all streams, listed or not
      attr_reader :count, :frames

      def initialize
        @list = []
        @last = {}
        @count = @frames = 0
      end

      # @param at [Integer] frame   @param frames [Integer]
      # @param lanes [Array(Integer, Integer)] first and last (1-based)
      def add(at, frames, lanes)
        @frames += frames
        last = @last[lanes]
        return last["frames"] += frames if last && last["at"] + last["frames"] == at

        @count += 1
        @last[lanes] = one = { "at" => at, "frames" => frames, "lanes" => lanes }
        @list << one if @list.size < MOST
      end

      # @return [Array<Hash>] the first gaps, as listed in the manifest
      def list = @list.map(&:dup)

      # @return [Hash] count, frames, and how many are not listed
      def total = { "count" => @count, "frames" => @frames, "unlisted" => @count - @list.size }
    end
  end
end
