# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Settings that older shows have and that are no more: they are left out where such a show is read.
    module Retired
      # Lanes of a personal-mix system were fed in blocks, like sockets; now each has a source of its own.
      PATHS = [%r{\Aoutlet/personal-\d+/first\z}].freeze

      # @param settings [Hash{String=>Object}]
      # @return [Hash{String=>Object}] without them
      def self.out_of(settings) = settings.reject { |path, _| PATHS.any? { |old| old.match?(path) } }
    end
  end
end
