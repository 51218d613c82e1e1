# frozen_string_literal: true

module Loomshuttle
  module Web
    # A HEAD request is held against the contract as the GET that it stands for, and gets its head alone: what is not in the contract would
    # otherwise go unchecked.
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
