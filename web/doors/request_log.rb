# frozen_string_literal: true

module Loomshuttle
  module Web
    # The one place that every change passes on its way in, whoever asks for it and by whatever route. Who asked for what is told in the log.
    # There are no accounts here, so everybody may do everything; where somebody may not, it will be refused here.
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
