# frozen_string_literal: true

module Loomshuttle
  module Rig
    # How long a capture can last on the disk.
    module DiskBudget
      # Kept free so that headers, manifests and the database can always be written.
      RESERVE_BYTES = 256 * 1024 * 1024

      # @param free_bytes [Integer] free space of the capture disk
      # @param lanes [Integer] lanes written at the same time (two for a stereo track)
      # @param rate [Integer] samples a second
      # @param bits [Integer] bits per sample: 24 or 32
      # @return [Float, nil] seconds; nil if nothing is written
      def self.seconds(free_bytes:, lanes:, rate:, bits:)
        return nil if lanes.zero?

        [free_bytes - RESERVE_BYTES, 0].max / bytes_a_second(lanes: lanes, rate: rate, bits: bits).to_f
      end

      # @return [Integer]
      def self.bytes_a_second(lanes:, rate:, bits:) = lanes * rate * bits / 8
    end
  end
end
