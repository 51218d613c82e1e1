# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # Finds zero crossings, where sound can be cut and joined with the least noise.
    module ZeroCrossing
      # @param sound [Numo::NArray] [frames]   @param from [Integer] frame
      # @return [Integer] the nearest frame that is zero or follows a change of sign; `from` itself if there is none
      def self.nearest(sound, from)
        return from if sound.size < 2

        signs = Numo::Int8.cast(sound.sign)
        places = (signs[1..].ne(signs[0...-1]) | signs[1..].eq(0)).where.to_a.map(&:succ)
        places.unshift(0) if signs[0].zero?
        places.min_by { |at| [(at - from).abs, at] } || from
      end
    end
  end
end
