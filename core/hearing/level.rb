# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Levels in words.
    module Level
      # @param db [Numeric, nil]
      # @return [String] e.g. "−6.5 dB"; "silent" where there is none
      def self.words(db)
        return "silent" if db.nil? || db <= Survey::NOTHING_DB

        figure = (db * 10).round / 10.0
        "#{figure.negative? ? '−' : ''}#{format(figure.round == figure ? '%d' : '%.1f', figure.abs)} dB"
      end
    end
  end
end
