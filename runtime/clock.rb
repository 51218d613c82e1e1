# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # A clock for measuring.
    module Clock
      # @return [Float] monotonic time in seconds, unaffected by changes of the time of day
      def self.now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
