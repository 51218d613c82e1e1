# frozen_string_literal: true

require "json"

module Loomshuttle
  module Supervisor
    # Brings the database up to date, and puts the demo shows into an empty one.
    module Seed
      # The first one is open.
      SHOWS = %w[show.json clean.json].freeze

      # @param url [String] of the database
      def self.run(url)
        database = Store::Database.connect(url)
        Store::Database.migrate(database)
        shows = Store::Shows.new(database, Rig::Catalog.read(File.join(ROOT, "profiles")))
        return if shows.open_id

        SHOWS.each do |file|
          data = JSON.parse(File.read(File.join(ROOT, "demo", file)))
          shows.create(data["about"].transform_keys(&:to_sym), data["settings"])
        end
      ensure
        database&.disconnect
      end
    end
  end
end
