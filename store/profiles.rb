# frozen_string_literal: true

require "sequel"

module Loomshuttle
  module Store
    # Device profiles: shipped and imported.
    class Profiles
      # @param shipped [Rig::Catalog]
      def initialize(database, shipped)
        @db = database
        @shipped = shipped
        @lock = Mutex.new
      end

      # @return [Rig::Catalog] those that ship
      attr_reader :shipped

      # @return [Rig::Catalog]
      def catalog
        @lock.synchronize { @catalog ||= @shipped.with(@db[:profiles].order(:id).select_map(:data).map { |data| Rig::Profile.from(Json.plain(data)) }) }
      end

      # @return [Boolean]
      def shipped?(id) = @shipped.all.any? { |profile| profile.id == id }

      # Stores a user's profile; one with the same id is replaced unless a show uses it.
      # @param data [Hash] already checked against the schema
      # @return [Rig::Desk, Rig::Box, Rig::Interface]
      # @raise [Invalid] if it does not describe a device, has the id of a shipped profile, or is used by a show
      def keep(data)
        profile = Rig::Profile.from(data)
        raise Invalid.new("#{profile.id} is a profile that ships with Loomshuttle; choose another id.", where: "/id") if shipped?(profile.id)

        same = catalog.all.find { |one| one.id == profile.id }
        raise Invalid.new("#{profile.id} is used by a show and would change under it; choose another id.", where: "/id") if same && same.to_json_data != data && used?(profile.id)

        row = { data: Sequel.pg_jsonb(data), at: Time.now }
        @db[:profiles].insert_conflict(target: :id, update: row).insert(row.merge(id: profile.id))
        @lock.synchronize { @catalog = nil }
        profile
      end

      # @raise [Invalid] for a shipped profile, one that a show uses, or an unknown one
      def delete(id)
        raise Invalid.new("#{id} ships with Loomshuttle and cannot be deleted.", where: "profile") if shipped?(id)
        raise Invalid.new("#{id} is used by a show.", where: "profile") if used?(id)

        @db[:profiles].where(id: id).delete.positive? or raise Invalid.new("There is no profile #{id}.", where: "profile")
        @lock.synchronize { @catalog = nil }
      end

      private

      def used?(id) = !@db[:settings].where(value: Sequel.pg_jsonb_wrap(id)).where(Sequel.like(:path, "rig/%", "box/%/profile")).empty?
    end
  end
end
