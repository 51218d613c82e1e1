# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    # JSON that is already generated, to be embedded in a larger document.
    class JsonText < String
      # @return [JsonText]
      def self.of(value) = new(JSON.generate(value)).freeze

      # @param texts [Array<JsonText>]
      # @return [JsonText] a JSON array of them
      def self.list(texts) = new("[#{texts.join(',')}]").freeze

      def to_json(*) = to_s
    end
  end
end
