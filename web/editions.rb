# frozen_string_literal: true

module Loomshuttle
  module Web
    # What screens have been shown lately, so that they can be told what has changed since instead of everything.
    class Editions
      # Screens that are further behind are told everything.
      KEPT = 16

      def initialize
        @kept = {}
        @lock = Mutex.new
      end

      # @param derived [Derived]   @param findings [Array<Hash>] as Present tells them
      # @return [Drawn] the same one for as long as both stay
      def drawn(derived, findings)
        kept = @kept.values.reverse
        known = kept.find { |one| one.derived.equal?(derived) && one.findings == findings }
        known || Drawn.new(derived, findings, before: kept.first).tap { |made| @lock.synchronize { keep(made) } }
      end

      # @param edition [String, nil] that a screen has
      # @param now [Drawn]
      # @return [Array<Hash>, nil] what has changed since; nil where that is not known any more, or was another show
      def since(edition, now)
        older = @kept[edition]
        now.since(older) if older && older.id == now.id
      end

      private

      def keep(made)
        @kept = @kept.to_a.last(KEPT - 1).to_h.merge(made.edition => made)
      end
    end
  end
end
