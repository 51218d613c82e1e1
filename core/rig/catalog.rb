# frozen_string_literal: true

module Loomshuttle
  module Rig
    # All known profiles, shipped and imported.
    class Catalog
      # @param folder [String] of JSON files; the schema beside them is skipped
      # @return [Catalog]
      # @raise [Invalid] for a file that is not a profile
      def self.read(folder)
        new(Dir.glob("*.json", base: folder).grep_v(/\.schema\.json\z/).sort.map { |name| Profile.read(File.join(folder, name)) })
      end

      # @param profiles [Array<Desk, Box, Interface>]
      def initialize(profiles)
        @profiles = profiles.to_h { |profile| [profile.id, profile] }.freeze
        freeze
      end

      # @param more [Array<Desk, Box, Interface>]
      # @return [Catalog] with these added; one with a known id replaces the old one
      def with(more) = Catalog.new(@profiles.merge(more.to_h { |profile| [profile.id, profile] }).values)

      # @return [Array<Desk, Box, Interface>]
      def all = @profiles.values

      def ==(other) = other.is_a?(Catalog) && all.map(&:to_json_data) == other.all.map(&:to_json_data)

      # @return [Array<String>] ids of all profiles of a kind
      def ids(kind) = all.select { |profile| profile.kind == kind }.map(&:id)

      # @param kind ["desk", "box", "interface"]
      # @param where [String] path of the setting that names it, for the error
      # @return [Desk, Box, Interface]
      # @raise [Invalid] if there is no such profile of that kind
      def fetch(kind, id, where: "profile")
        found = @profiles[id]
        return found if found&.kind == kind

        raise Invalid.new("There is no #{kind} profile #{id.inspect}; known are #{ids(kind).join(', ')}.", where: where)
      end
    end
  end
end
