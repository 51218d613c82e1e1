# frozen_string_literal: true

module Loomshuttle
  module Timing
    # How fast sound is in air: c = 331.3 · √(1 + T / 273.15) m/s for T in °C, that of an ideal gas whose sound goes 331.3 m/s at 0 °C.
    module Air
      AT_ZERO = 331.3
      FOOT = 0.3048

      # @param celsius [Numeric]
      # @return [Float] metres per second
      def self.speed(celsius) = AT_ZERO * Math.sqrt(1 + (celsius / 273.15))

      # @return [Float] time in milliseconds that sound needs for the distance
      def self.ms(metres, celsius) = 1000.0 * metres / speed(celsius)
    end
  end
end
