# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The desk's own mix levels where somebody knows them: faders by channel and bus levels by channel and bus, in dB;
    # what is OFF or lower carries nothing. Sums into the mains follow the constant-power pan law at centre, -3 dB
    # (common practice, no published source); a centre main gets nothing by itself.
    class Mix
      OFF = -90
      CENTRE_DB = -10 * Math.log10(2)

      # @param faders [Hash{Integer=>Numeric}] channel => dB
      # @param levels [Hash{Array(Integer, Integer)=>Numeric}] [channel, bus] => dB; buses that are not named are off
      def initialize(faders:, levels: {})
        @faders = faders
        @levels = levels
        freeze
      end

      # @param base [String] "desk/ch/7" or "desk/ch/17/l"
      # @return [Numeric] dB
      def fader(base) = audible(@faders.fetch(number(base), OFF))

      # @return [Numeric] dB from a channel's lane to a bus or main
      def level(base, mix, width)
        _, kind, which = mix.split("/")
        return audible(@levels.fetch([number(base), which.to_i], OFF)) if kind == "bus"
        return -Float::INFINITY if which == "c"
        return CENTRE_DB if width == 1

        base.end_with?("/#{which}") ? 0 : -Float::INFINITY
      end

      private

      def number(base) = base[%r{\Adesk/ch/(\d+)}, 1].to_i
      def audible(decibels) = decibels <= OFF ? -Float::INFINITY : decibels
    end
  end
end
