# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A click, guide or pilot that an audience can hear: an area of the PA, or a broadcast.
    module CueAtAudience
      AUDIENCE = %w[area broadcast].freeze

      # @param survey [Hearing::Survey]   @param fixes [Boolean] whether to compute a fix for each
      # @return [Array<Finding>]
      def self.heard(survey, fixes: true)
        unwanted = survey.show.wishes.values.select { |wish| wish.kind == "never" }.flat_map { |wish| wish.sources.product(wish.listeners) }
        survey.sources.select(&:cue).product(survey.listeners.select { |one| AUDIENCE.include?(one.kind) }).filter_map do |source, listener|
          db = survey.figure(source.id, listener.number).heard
          finding(survey, source, listener, db, fixes) if db && !unwanted.include?([source.id, listener.number])
        end
      end

      def self.finding(survey, source, listener, decibels, fixes)
        Finding.new(id: "cue-at-audience/#{source.id}/#{listener.number}", check: "cue-at-audience", severity: Finding::BLOCKS,
                    sentence: "#{source.title} can be heard by #{listener.title}, at #{Hearing::Level.words(decibels)}.",
                    path: Hearing::Way.points(survey, source.id, listener.number), at: [],
                    fix: fixes ? Steps::Mend.stop(survey, source.id, listener.number) : nil)
      end
      private_class_method :finding
    end
  end
end
