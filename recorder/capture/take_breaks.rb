# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Where the sender started anew within a take, or sent nothing while its counter waited. Nobody counted samples meanwhile, so the take
    # goes on without a hole, and says what is not in it.
    module TakeBreaks
      PAUSED = "The desk sent nothing for %<seconds>.1f s after %<at>.1f s; that time is not in the files."
      ANEW = "The desk started anew after %<at>.1f s; the %<seconds>.1f s that it took are not in the files."

      # @param breaks [Array<Hash>] "at" in frames, "seconds" without sound, and "kind": "paused", or none where it started anew
      # @param rate [Integer]
      # @return [Array<String>] a sentence each
      def self.words(breaks, rate)
        breaks.to_a.map { |one| format(one["kind"] == "paused" ? PAUSED : ANEW, at: one["at"] / rate.to_f, seconds: one["seconds"]) }
      end
    end
  end
end
