# frozen_string_literal: true

module Loomshuttle
  module StandIns
    # The word clock cable: the desk's counter and rate, for devices that follow it.
    module WordClock
      MARK = "WCLK"
      # Somebody tells a changeover to go back to the first computer.
      BACK = "BACK"

      # @return [String]
      def self.pack(time, rate) = [MARK, time, rate].pack("a4Q>N")

      # @return [Array(Integer, Integer), nil] counter and rate; nil for anything else
      def self.unpack(bytes)
        mark, time, rate = bytes.unpack("a4Q>N") if bytes.bytesize == 16
        [time, rate] if mark == MARK && Formats::TakeManifest::RATES.cover?(rate) && time < (1 << 60)
      end
    end
  end
end
