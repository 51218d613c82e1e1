# frozen_string_literal: true

require "json"
require "json_schemer"

module Loomshuttle
  module Web
    # Validates files against the published JSON Schemas, and lists each fault with its position.
    module Schemas
      FILES = { profile: File.join(ROOT, "profiles", "profile.schema.json"), show: File.join(ROOT, "schemas", "show.schema.json") }.freeze
      MOST = 20

      # @param kind [:profile, :show]
      # @param data [Object] parsed JSON
      # @raise [Invalid] with every fault as a JSON pointer and a sentence
      def self.check(kind, data)
        faults = schema(kind).validate(data).first(MOST).map { |error| Invalid::Fault.new(where: pointer(error), message: words(error)) }.uniq
        return if faults.empty?

        more = faults.size > 1 ? " (and #{faults.size - 1} more)" : ""
        raise Invalid.new("This is not a Loomshuttle #{kind}: #{faults.first.where} #{faults.first.message}#{more}.", where: faults.first.where, faults: faults)
      end

      class << self
        private

        def schema(kind) = (@schemas ||= {})[kind] ||= JSONSchemer.schema(JSON.parse(File.read(FILES.fetch(kind))))

        def pointer(error) = error["data_pointer"].empty? ? "the top" : error["data_pointer"]

        def words(error)
          case error["type"]
          when "required" then "lacks #{error.dig('details', 'missing_keys').join(', ')}"
          when "const" then "must be #{error.dig('schema', 'const').inspect}"
          when "enum" then "must be one of #{error.dig('schema', 'enum').join(', ')}"
          when "pattern" then "does not look like #{error.dig('schema', 'pattern')}"
          when "schema" then "is not known here"
          else plain(error)
          end
        end

        TYPES = { "integer" => "a whole number", "number" => "a number", "string" => "text", "boolean" => "true or false", "array" => "a list", "object" => "an object",
                  "null" => "nothing" }.freeze
        private_constant :TYPES

        def plain(error) = TYPES.key?(error["type"]) ? "must be #{TYPES[error['type']]}" : error["error"].to_s.sub(/\A.*? at `[^`]*` /, "").delete(":")
      end
    end
  end
end
