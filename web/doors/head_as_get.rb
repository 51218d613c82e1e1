# frozen_string_literal: true

module Loomshuttle
  module Web
    # Validates a HEAD request as the GET request that it stands for, and returns the headers only. Otherwise requests outside the contract would go
    # unchecked.
    class HeadAsGet
      ASKED = "loomshuttle.head"

      def initialize(app)
        @app = app
      end

      def call(env)
        return @app.call(env) unless env["REQUEST_METHOD"] == "HEAD"

        status, headers, body = @app.call(env.merge("REQUEST_METHOD" => "GET", ASKED => true))
        body.close if body.respond_to?(:close)
        [status, headers, []]
      end
    end
  end
end
