# frozen_string_literal: true

require "json"

module Loomshuttle
  module Supervisor
    # Brings the database up to date, and puts the demo show into an empty one.
    module Seed
      # @param url [String] of the database
      def self.run(url)
        database = Store::Database.connect(url)
        Store::Database.migrate(database)
        profile = Rig::Profile.read(File.join(ROOT, "profiles", "rowan-16.json"))
        shows = Store::Shows.new(database, profile.id => profile)
        return if shows.first_id

        data = JSON.parse(File.read(File.join(ROOT, "demo", "show.json")))
        shows.create(data["profile"], data["about"].transform_keys(&:to_sym), data["settings"])
      ensure
        database&.disconnect
      end
    end
  end
end
