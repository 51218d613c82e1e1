# frozen_string_literal: true

module Loomshuttle
  module Settings
    # The declarations as JSON Schema, for the show's published schema and for the contract (bin/schemas writes both).
    module Schema
      class << self
        # @return [Hash{String=>Hash}] regular expression for paths => JSON schema of their values
        def by_path
          Settings.collections.each_with_object({}) do |collection, all|
            all["^#{collection.order}$"] = ORDER if collection.list?
            collection.settings.each { |field, setting| all[collection.pattern(field)] = setting.kind.schema }
          end
        end

        # @param collection [Collection]
        # @return [Hash{String=>Hash}] field => JSON schema, for one item in the API, its key first
        def item(collection)
          fields = collection.settings.to_h { |field, setting| [field.to_s, setting.kind.schema.merge({ "description" => setting.unit }.compact)] }
          return fields if collection.one?

          { collection.key.to_s => { "type" => collection.numbered? ? "integer" : "string" } }.merge(fields)
        end

        ORDER = { "type" => "array", "maxItems" => Collection::MOST, "uniqueItems" => true, "items" => { "type" => "integer", "minimum" => 1 } }.freeze
        private_constant :ORDER
      end
    end
  end
end
