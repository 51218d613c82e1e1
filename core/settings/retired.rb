# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Settings of older shows that no longer exist. They are skipped when such a show is read.
    module Retired
      # Lanes of a personal-mix system used to be fed in blocks, like sockets; now each has its own source.
      PATHS = [%r{\Aoutlet/personal-\d+/first\z}].freeze

      # @param settings [Hash{String=>Object}]
      # @return [Hash{String=>Object}] without them
      def self.out_of(settings) = settings.reject { |path, _| PATHS.any? { |old| old.match?(path) } }
    end
  end
end
