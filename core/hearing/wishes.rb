# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Requirements beside what is really heard: each requirement for each of its sources and listeners.
    module Wishes
      # wish: Settings::Wish; source: id; listener: number; figure: Survey::Figure; kept: whether it is so
      Result = Value.define(:wish, :source, :listener, :figure, :kept)

      # Figures are rounded to a tenth.
      TOLERANCE = 0.05
      private_constant :TOLERANCE

      class << self
        # Skips wishes whose source or listener no longer exists.
        # @param survey [Survey]
        # @return [Array<Result>]
        def of(survey)
          survey.show.wishes.values.flat_map do |wish|
            wish.sources.product(wish.listeners).filter_map { |source, listener| result(survey, wish, source, listener) }
          end
        end

        # @param wish [Settings::Wish]   @param db [Float, nil] nil for silence
        # @return [Boolean]
        def kept?(wish, db)
          case wish.kind
          when "reach" then !db.nil?
          when "never" then db.nil?
          when "least" then !db.nil? && db >= wish.db - TOLERANCE
          else db.nil? || db <= wish.db + TOLERANCE
          end
        end

        # @return [String] e.g. "at least −6 dB"
        def words(wish)
          case wish.kind
          when "reach" then "must reach"
          when "never" then "never"
          when "least" then "at least #{Level.words(wish.db)}"
          else "at most #{Level.words(wish.db)}"
          end
        end

        private

        def result(survey, wish, source, listener)
          figure = survey.figure(source, listener) or return
          Result.new(wish: wish, source: source, listener: listener, figure: figure, kept: kept?(wish, figure.heard))
        end
      end
    end
  end
end
