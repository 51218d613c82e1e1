# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Sources that the next capture would miss: without a card send, without a track, or on tracks that are not armed. Lanes beyond the card's mode
    # are CardMode's.
    module NotCaptured
      WORDS = { "no-send" => "reach no card send", "no-track" => "reach no track", "not-armed" => "are on tracks that are not armed" }.freeze
      # Names in a sentence.
      SOME = 4
      private_constant :WORDS, :SOME

      def self.findings(context)
        lefts = Signal::Uncaptured.of(context.show).group_by(&:kind)
        WORDS.keys.filter_map { |kind| finding(context.show, kind, lefts[kind]) if lefts[kind] }
      end

      class << self
        private

        def finding(show, kind, lefts)
          points = lefts.map(&:point)
          Finding.new(id: "not-captured/#{kind}", check: "not-captured", severity: Finding::LOOK, sentence: sentence(kind, lefts), path: points, at: points,
                      fix: Steps::CaptureAll.edit(show, lefts))
        end

        def sentence(kind, lefts)
          return "#{lefts.first.title} will not be captured: #{lefts.first.why}." if lefts.size == 1

          names = lefts.first(SOME).map(&:title).join(", ")
          full = lefts.first.why[/, and (all.*)\z/, 1]
          "#{lefts.size} sources will not be captured, since they #{WORDS.fetch(kind)}#{full && " (#{full})"}: #{names}#{" and #{lefts.size - SOME} more" if lefts.size > SOME}."
        end
      end
    end
  end
end
