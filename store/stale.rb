# frozen_string_literal: true

module Loomshuttle
  module Store
    # An edit was made against a version that is no longer the newest. Nothing was changed; `entries` are the journal
    # entries that came in between, so that the edit can be looked at and made again.
    class Stale < Loomshuttle::Stale
      attr_reader :version, :entries

      def initialize(version, entries)
        super("The show changed before your edit: #{entries.map { |entry| "#{entry[:label]} (#{entry[:who]})" }.join('; ')}.")
        @version = version
        @entries = entries
      end
    end
  end
end
