# frozen_string_literal: true

require "pg"
require "sequel"

module Loomshuttle
  module Web
    # HTTP statuses (RFC 9110; 507: RFC 4918) of everything that can go wrong.
    module Statuses
      OF = { invalid: 422, not_found: 404, stale: 409, undecided: 409, away: 503, busy: 503, unknown: 503, full: 507 }.freeze

      # @param problem [Problem]
      # @return [Integer]
      def self.of(problem) = OF.fetch(problem.kind)

      # @param code [Integer] status of an answer without a Problem
      # @return [Symbol, nil] nil for a defect of the program
      def self.kind(code) = OF.key(code) || (:invalid if code < 500)

      # @param error [SystemCallError, Sequel::Error] from the disk or the database
      # @return [Array(Integer, String, String)] status, message and where; nil for a defect of the program
      def self.of_error(error)
        case error
        when Errno::ENOSPC, Errno::EDQUOT then [507, "The disk is full; nothing was saved. Make room and try again.", "disk"]
        when Store::Database::Unknown
          [503, "The database did not confirm the change in time. It may be saved or not; the show is read again. Check it before you try again.", "unknown"]
        when Sequel::DatabaseConnectionError, Sequel::DatabaseDisconnectError, Sequel::PoolTimeout
          [503, "The database does not answer; nothing was changed. Try again in a moment.", "database"]
        when Sequel::DatabaseError then of_database(error.wrapped_exception)
        end
      end

      def self.of_database(error)
        case error
        when PG::DiskFull, PG::OutOfMemory, PG::InsufficientResources then [507, "The database's disk is full; nothing was saved. Make room and try again.", "disk"]
        when PG::NumericValueOutOfRange, PG::DataException then [400, "A number or text is beyond what can be saved. Nothing was changed.", "request"]
        else [500, "Something went wrong in the database. Nothing was changed by this request.", "request"]
        end
      end
      private_class_method :of_database
    end
  end
end
