# frozen_string_literal: true

module Loomshuttle
  module Web
    # Logs who asked for each change. Every change passes here, by whatever route. There are no accounts, so everybody may do everything;
    # permissions would be checked here.
    module RequestLog
      # Only looks, although they bring a body.
      LOOKS = %w[/api/steps/preview /api/deliveries/look].freeze

      # @param who [String]   @param verb [String] of the request   @param path [String]
      def self.begin(who, verb, path)
        return if Guard::SAFE.include?(verb) || LOOKS.include?(path)

        Runtime::Log.now.info("#{who}: #{verb} #{Text.readable(path, most: 120)}")
      end
    end
  end
end
