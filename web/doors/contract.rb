# frozen_string_literal: true

require "committee"
require "json"

module Loomshuttle
  module Web
    # The OpenAPI file as the contract: requests are checked against it here, responses in the tests.
    module Contract
      PATH = File.join(ROOT, "web", "openapi.json")

      # Committee's own loader stops at OpenAPI 3.0, but its parser supports 3.1. No path is given, since the contract refers to no other file and the path may
      # contain characters that a URI may not.
      # @return [Committee::Drivers::OpenAPI3::Schema]
      def self.schema
        @schema ||= begin
          document = OpenAPIParser.parse(JSON.parse(File.read(PATH)), strict_reference_validation: true)
          Committee::Drivers::OpenAPI3::Driver.new.parse(document)
        end
      end

      # What a request that breaks the contract gets: what is wrong and where.
      class Refusal < Committee::ValidationError
        def error_body = { error: { message: "The request is not valid: #{Text.readable(message, most: 300)}", where: Text.readable(request&.path_info) } }

        def render = [status, { "content-type" => "application/json" }, [JSON.generate(error_body)]]
      end

      # @return [Hash] for Committee::Middleware::RequestValidation
      def self.options
        { schema: schema, prefix: nil, coerce_form_params: false, error_class: Refusal, strict: false, parse_response_by_content_type: false,
          check_header: false, coerce_date_times: false, allow_form_params: false, query_hash_key: "committee.query_hash" }
      end
    end
  end
end
