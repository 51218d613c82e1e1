# frozen_string_literal: true

module Loomshuttle
  module Web
    # The latest states of the show that went out to screens. A screen that has one of them gets only the changes.
    class Editions
      # A screen that is further behind gets the whole show.
      KEPT = 16

      def initialize
        @kept = {}
        @lock = Mutex.new
      end

      # @param derived [Derived]   @param findings [Array<Hash>] as Present returns them
      # @return [Drawn] the same object while neither changes
      def drawn(derived, findings)
        kept = @kept.values.reverse
        known = kept.find { |one| one.derived.equal?(derived) && one.findings == findings }
        known || Drawn.new(derived, findings, before: kept.first).tap { |made| @lock.synchronize { keep(made) } }
      end

      # @param edition [String, nil] ID of what the screen has
      # @param now [Drawn]
      # @return [Array<Hash>, nil] the changes since then; nil if that edition is no longer kept or belongs to another show
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
