# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Where the sender started anew within a take. Nobody counted samples meanwhile, so the take goes on without a hole, and says what is
    # not in it.
    module TakeBreaks
      # @param breaks [Array<Hash>] "at" in frames, and "seconds" without sound
      # @param rate [Integer]
      # @return [Array<String>] a sentence each
      def self.words(breaks, rate)
        breaks.to_a.map do |one|
          format("The desk started anew after %<at>.1f s; the %<seconds>.1f s that it took are not in the files.", at: one["at"] / rate.to_f, seconds: one["seconds"])
        end
      end
    end
  end
end
