# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # A clock for measuring.
    module Clock
      # @return [Float] seconds that only grow, whatever happens to the time of day
      def self.now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
