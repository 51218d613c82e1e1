# frozen_string_literal: true

module Loomshuttle
  module Web
    # What screens have been shown lately, so that they can be told what has changed since instead of everything.
    class Editions
      # Screens that are further behind are told everything.
      KEPT = 8

      def initialize
        @kept = {}
        @lock = Mutex.new
      end

      # @param derived [Derived]
      # @return [Drawn] the same one each time
      def drawn(derived)
        @kept[derived.edition] || Drawn.new(derived, before: @kept.values.last).then { |made| @lock.synchronize { keep(made) } }
      end

      # @param edition [String, nil] that a screen has
      # @param now [Drawn]
      # @return [Array<Hash>, nil] what has changed since; nil where that is not known any more, or was another show
      def since(edition, now)
        older = @kept[edition]
        now.since(older) if older && older.id == now.id
      end

      private

      # Two that asked at once have made it twice; the first one counts.
      def keep(made)
        @kept = @kept.to_a.last(KEPT - 1).to_h.merge(made.edition => made) unless @kept.key?(made.edition)
        @kept[made.edition]
      end
    end
  end
end
