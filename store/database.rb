# frozen_string_literal: true

require "sequel"
require "timeout"

module Loomshuttle
  module Store
    # The connection to PostgreSQL, and migrations of its schema.
    module Database
      # @param url [String] postgres://…
      # @return [Sequel::Database]
      def self.connect(url)
        Sequel.default_timezone = :utc
        # No query yet, because the process must be able to start while the database is away.
        Sequel.connect(url, max_connections: 8, connect_timeout: 3, pool_timeout: 4, test: false, keep_reference: false, driver_options: { gssencmode: "disable" }).tap do |db|
          db.extend(Deadline)
          db.extension(:pg_json, :connection_validator)
          db.pool.connection_validation_timeout = 30
        end
      end

      # A question was not answered in time; the connection is given up.
      class Late < Sequel::DatabaseDisconnectError; end

      # The end of a transaction was not confirmed in time: what it did may be kept, or not.
      class Unknown < Late; end

      # Every question to the database has a deadline: a server that hangs hangs nobody else.
      module Deadline
        SECONDS = 4

        # Without this, Sequel would ask for the server's version at once.
        def valid_connection_sql = "SELECT NULL"

        # Sequel calls this around each query.
        def log_connection_yield(sql, connection, arguments = nil)
          kind = sql.to_s.match?(/\ACOMMIT/i) ? Unknown : Late
          Timeout.timeout(SECONDS, kind, "the database did not answer within #{SECONDS} s") { super }
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
