# frozen_string_literal: true

module Loomshuttle
  module Store
    # The columns of input lists that people have assigned, by their headers, for all shows.
    class ListColumns
      # Headers that are remembered.
      MOST = 2000

      def initialize(database)
        @db = database
      end

      # @return [Hash{String=>String}] plain header => field; "" if the column is to be ignored
      def all = @db[:list_columns].as_hash(:header, :field)

      # @param columns [Hash{String=>String}]
      # @raise [Invalid] if the limit is reached
      def keep(columns)
        raise Invalid.new("#{MOST} headers are remembered already.", where: "columns") if (all.keys | columns.keys).size > MOST

        rows = columns.map { |header, field| { header: header, field: field } }
        @db[:list_columns].insert_conflict(target: :header, update: { field: Sequel[:excluded][:field] }).multi_insert(rows)
      end
    end
  end
end
