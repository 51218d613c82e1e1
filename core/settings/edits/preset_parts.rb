# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Parts of a patch that can be saved and recalled separately.
    module PresetParts
      NAMES = %w[rig inputs sends returns mix outputs playback names].freeze

      # @param show [Show]
      # @param parts [Array<String>] of NAMES
      # @return [Hash{String=>Object}] all settings of those parts, by path
      # @raise [Invalid] for an unknown part
      def self.of(show, parts) = only(show.settings, parts)

      # @param settings [Hash{String=>Object}]
      # @return [Hash{String=>Object}] those that belong to these parts
      # @raise [Invalid] for an unknown part
      def self.only(settings, parts)
        unknown = parts - NAMES
        raise Invalid.new("There are no #{unknown.join(', ')} to save; known are #{NAMES.join(', ')}.", where: "parts") if unknown.any? || parts.empty?

        settings.select { |path, _| parts.include?(part_of(path)) }
      end

      # @return [String, nil] the part that a setting belongs to
      def self.part_of(path) = Settings.find(path)&.last&.part
    end
  end
end
