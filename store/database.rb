# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Store
    # The connection, and the schema's way to its newest version.
    module Database
      # @param url [String] postgres://…
      # @return [Sequel::Database]
      def self.connect(url)
        Sequel.default_timezone = :utc
        Sequel.connect(url, max_connections: 8, connect_timeout: 3, driver_options: { gssencmode: "disable" }).tap do |db|
          db.extension(:pg_json, :connection_validator)
          db.pool.connection_validation_timeout = 30
        end
      end

      # Brings the schema up to date; safe to call again.
      def self.migrate(database)
        Sequel.extension(:migration)
        Sequel::Migrator.run(database, File.join(ROOT, "store", "migrations"))
      end
    end
  end
end
