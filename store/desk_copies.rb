# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Store
    # Copies of the desk from before a plan was sent, so that sending can be undone.
    class DeskCopies
      # Older copies of a show are deleted.
      KEPT = 20

      def initialize(database)
        @db = database
      end

      # @param values [Hash{String=>Object}] desk address => value
      # @return [Integer] id
      def keep(show_id, desk:, label:, who:, values:)
        @db.transaction do
          id = @db[:desk_copies].insert(show_id: show_id, desk: desk, label: label, who: who, at: Time.now, values: Sequel.pg_jsonb(values))
          old = @db[:desk_copies].where(show_id: show_id).reverse(:id).offset(KEPT).select_map(:id)
          @db[:desk_copies].where(id: old).delete
          id
        end
      end

      # @return [Array<Hash>] id, desk, label, who, at and the number of values, newest first
      def list(show_id) = @db[:desk_copies].where(show_id: show_id).reverse(:id).all.map { |row| row.except(:values, :show_id).merge(count: row[:values].to_h.size) }

      # @return [Hash] the entry with :values
      # @raise [Invalid] if there is none
      def find(show_id, id)
        row = @db[:desk_copies].first(show_id: show_id, id: id) or raise Invalid.new("There is no copy #{id} of the desk.", where: "copy")
        row.merge(values: row[:values].to_h)
      end
    end
  end
end
