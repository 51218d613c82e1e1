# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Store
    # Takes as the database knows them: a copy of each manifest. The folder is the truth; `reconcile` follows it.
    class Takes
      def initialize(database)
        @db = database
      end

      # @param found [Array<Array(String, Hash)>] folders and manifests
      # @return [Integer] number of new or changed takes
      def reconcile(found)
        known = @db[:takes].select(:id, :folder, :manifest).to_h { |row| [row[:id], [row[:folder], row[:manifest].to_h]] }
        changed = found.reject { |folder, manifest| known[manifest["id"]] == [folder, manifest] }
        changed.each { |folder, manifest| save(folder, manifest) }
        gone = known.keys - found.map { |_, manifest| manifest["id"] }
        changed.size + @db[:takes].where(id: gone).delete
      end

      # @return [Array<Hash>] manifests, newest first, with "folder"
      def all = @db[:takes].reverse(:number).map { |row| row[:manifest].to_h.merge("folder" => row[:folder]) }

      private

      def save(folder, manifest)
        row = { number: manifest["number"], folder: folder, manifest: Sequel.pg_jsonb(manifest), seen_at: Time.now }
        @db[:takes].insert_conflict(target: :id, update: row).insert(row.merge(id: manifest["id"]))
      rescue Sequel::DatabaseDisconnectError, Sequel::DatabaseConnectionError, Database::Late
        raise
      rescue Sequel::DatabaseError => e
        Runtime::Health.trouble(e, "keeping take #{manifest['number']}") # one bad take hides no other
      end
    end
  end
end
