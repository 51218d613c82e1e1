# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The level of a lane on one side of a stereo mix. A mono lane has the cosine (right: the sine) of the pan's angle, to the power in the desk's
    # profile (Rig::Mixing::LAWS). As cos² + sin² = 1, a power of 1 keeps the sum of both powers (constant power). Of two lanes on a side each, the
    # balance lowers the far one by the cosine.
    module Pan
      # @param pan [Numeric] -1 left to 1 right   @param side ["l", "r"]   @param power [Numeric]
      # @return [Float] dB; -Infinity for silence
      def self.mono(pan, side, power)
        angle = (pan + 1) * Math::PI / 4
        decibels((side == "l" ? Math.cos(angle) : Math.sin(angle))**power)
      end

      # @param pan [Numeric] -1 left to 1 right   @param side ["l", "r"] side that the lane feeds
      # @return [Float] dB
      def self.balance(pan, side)
        away = side == "l" ? pan : -pan
        away.positive? ? decibels(Math.cos(away * Math::PI / 2)) : 0.0
      end

      def self.decibels(amplitude) = amplitude < 1e-9 ? -Float::INFINITY : 20 * Math.log10(amplitude)
      private_class_method :decibels
    end
  end
end
