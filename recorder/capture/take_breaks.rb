# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Where the desk restarted within a take, or paused without counting on. As no samples were counted, the take continues without a hole and
    # reports what is missing.
    module TakeBreaks
      PAUSED = "Gap of %<seconds>.1f s at %<at>.1f s: the desk sent no audio."
      RESTARTED = "Gap of %<seconds>.1f s at %<at>.1f s: the desk restarted."

      # @param breaks [Array<Hash>] "at" in frames, "seconds" without sound, and "kind": "paused", or absent if the sender restarted
      # @param rate [Integer]
      # @return [Array<String>] a sentence each
      def self.words(breaks, rate)
        breaks.to_a.map { |one| format(one["kind"] == "paused" ? PAUSED : RESTARTED, at: one["at"] / rate.to_f, seconds: one["seconds"]) }
      end
    end
  end
end
