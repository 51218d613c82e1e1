# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Store
    # Snapshots of desk levels, so that who hears what is known without a desk.
    class LevelSheets
      # Of one show; each is some ten kilobytes.
      MOST = 200

      def initialize(database)
        @db = database
      end

      # @param desk [String] profile of the desk   @param values [Hash{String=>Object}]
      # @return [Integer] id
      # @raise [Invalid] if the limit is reached
      def keep(show_id, name:, desk:, who:, values:)
        @db.transaction do
          @db[:shows].where(id: show_id).for_update.get(:id) or raise Invalid.new("There is no show #{show_id} any more.", where: "show") # one after the other
          raise Invalid.new("#{MOST} level sheets are kept; delete one first.", where: "name") if of(show_id).count >= MOST

          @db[:level_sheets].insert(show_id: show_id, name: name, desk: desk, who: who, at: Time.now, values: Sequel.pg_jsonb(values))
        end
      end

      # @return [Array<Hash>] id, name, desk, who, at, newest first
      def list(show_id) = of(show_id).reverse(:id).select(:id, :name, :desk, :who, :at).all

      # @return [Hash] the entry with :values
      # @raise [Invalid] if there is none
      def find(show_id, id)
        row = of(show_id).first(id: id) or raise Invalid.new("There is no level sheet #{id}.", where: "sheet")
        row.merge(values: row[:values].to_h)
      end

      # @return [Hash, nil] the newest level sheet of a desk, with :values
      def newest(show_id, desk) = of(show_id).where(desk: desk).reverse(:id).first&.then { |row| row.merge(values: row[:values].to_h) }

      # @raise [Invalid] if there is none
      def delete(show_id, id)
        raise Invalid.new("There is no level sheet #{id}.", where: "sheet") if of(show_id).where(id: id).delete.zero?
      end

      private

      def of(show_id) = @db[:level_sheets].where(show_id: show_id)
    end
  end
end
