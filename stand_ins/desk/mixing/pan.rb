# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # How a lane is spread over left and right. A mono lane follows the law that the profile names: cosine and sine of the angle, to a power
      # (1: constant power; 2: constant sum). The lanes of a stereo channel go to a side each; its balance lets the far side fall.
      module Pan
        NOTHING = 1e-9

        # @param pan [Float] -1 (left) to 1   @param side [0, 1]   @param power [Float] of Abilities
        # @return [Float] amplitude
        def self.mono(pan, side, power)
          angle = (pan + 1) * Math::PI / 4
          floor((side.zero? ? Math.cos(angle) : Math.sin(angle))**power)
        end

        # @param pan [Float] -1 to 1   @param side [0, 1]
        # @return [Float] amplitude of the lane for this side
        def self.balance(pan, side)
          away = side.zero? ? pan : -pan
          away.positive? ? floor(Math.cos(away * Math::PI / 2)) : 1.0
        end

        def self.floor(amplitude) = amplitude.abs < NOTHING ? 0.0 : amplitude
        private_class_method :floor
      end
    end
  end
end
