# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Reads meter messages of the desk (docs/desk-control.md): a time, then pairs of peak and RMS in hundredths of a decibel.
      module MeterLetter
        # Bytes of the levels.
        MOST = 16_384

        # @param arguments [Array] of a /meters message
        # @return [Array(Array<Float>, Array<Float>), nil] peaks and RMS in dBFS; nil if they are not levels
        def self.read(arguments)
          levels = arguments[1]
          return unless levels.is_a?(String) && levels.bytesize.between?(4, MOST) && (levels.bytesize % 4).zero?

          levels.unpack("s>*").map { |level| level / 100.0 }.each_slice(2).to_a.transpose
        end
      end
    end
  end
end
