# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Levels in words.
    module Level
      # @param db [Numeric, nil]
      # @return [String] e.g. "−6.5 dB"; "silent" for nil
      def self.words(db)
        return "silent" if db.nil? || db < Survey::NOTHING_DB

        tenths = (db * 10).round
        "#{'−' if tenths.negative?}#{format((tenths % 10).zero? ? '%d' : '%.1f', tenths.abs / 10.0)} dB"
      end
    end
  end
end
