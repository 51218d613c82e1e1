# frozen_string_literal: true

module Loomshuttle
  module Timing
    # The latency of buffers. 1024 samples at 48 kHz are 21.3 ms each way and 42.7 ms in all (common practice, no published source).
    module Latency
      # @param samples [Integer]
      # @param rate [Integer] samples a second
      # @return [Float] milliseconds
      def self.ms(samples, rate) = samples * 1000.0 / rate

      # @param buffer [Integer] samples that the recorder buffers each way
      # @return [Hash] :in, :out and :total in milliseconds
      def self.round_trip(buffer:, rate:)
        each_way = ms(buffer, rate)
        { in: each_way, out: each_way, total: 2 * each_way }
      end
    end
  end
end
