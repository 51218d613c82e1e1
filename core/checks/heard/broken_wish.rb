# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A requirement that is not met.
    module BrokenWish
      # @param survey [Hearing::Survey]   @param fixes [Boolean] whether to compute a fix for each
      # @return [Array<Finding>]
      def self.heard(survey, fixes: true)
        Hearing::Wishes.of(survey).reject(&:kept).map { |result| finding(survey, result, fixes) }
      end

      def self.finding(survey, result, fixes)
        source, listener, db = survey.source(result.source).title, survey.listener(result.listener).title, result.figure.heard
        is = db ? "hears #{source} at #{Hearing::Level.words(db)}" : "does not hear #{source}"
        wants = { "reach" => "but must", "never" => "but must not" }.fetch(result.wish.kind) { "but needs #{Hearing::Wishes.words(result.wish)}" }
        Finding.new(id: "broken-wish/#{result.wish.number}/#{result.source}/#{result.listener}", check: "broken-wish", severity: Finding::BLOCKS,
                    sentence: "#{listener} #{is} #{wants}.", path: Hearing::Way.points(survey, result.source, result.listener), at: [],
                    fix: fixes ? Steps::Mend.of(survey, result) : nil)
      end
      private_class_method :finding
    end
  end
end
