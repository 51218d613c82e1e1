# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Store
    # Presets: saved parts of a patch, for all shows.
    class Presets
      def initialize(database)
        @db = database
      end

      # @return [Array<Hash>] id, name, parts, who, at and the number of settings, by name
      def list = @db[:presets].order(:name).all.map { |row| row.except(:settings).merge(parts: row[:parts].to_a, count: row[:settings].to_h.size) }

      # @return [Hash] with :settings
      # @raise [Invalid] if there is none
      def find(id)
        row = @db[:presets].first(id: id) or raise Invalid.new("There is no preset #{id}.", where: "preset")
        row.merge(parts: row[:parts].to_a, settings: Json.plain(row[:settings]))
      end

      # Stores settings under a name, replacing those stored under it before.
      # @return [Integer] id
      def keep(name, parts, settings, who)
        row = { parts: Sequel.pg_jsonb(parts), settings: Sequel.pg_jsonb(settings), who: who, at: Time.now }
        @db[:presets].insert_conflict(target: :name, update: row).insert(row.merge(name: name))
        @db[:presets].where(name: name).get(:id)
      end

      # @raise [Invalid] if there is none
      def delete(id) = @db[:presets].where(id: id).delete.positive? || raise(Invalid.new("There is no preset #{id}.", where: "preset"))
    end
  end
end
