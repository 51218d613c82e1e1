# frozen_string_literal: true

module Loomshuttle
  module Web
    # Which answers are compressed: larger texts for clients on the network. On this computer compression would only delay each edit, so only the
    # built files and the first answers of a page are compressed there. Sound, archives and the live feed never are.
    module Compression
      TEXT = %r{\A(application/json|text/(html|css|javascript|csv))}
      LEAST = 1400 # bytes, about what one packet carries
      LOOPBACK = /\A(127\.|::1\z)/

      # @param env [Hash] of the request   @param status [Integer]   @param headers [Hash]   @param body [#each]
      # @return [Boolean]
      def self.compress?(env, status, headers, body)
        return false unless status == 200 && headers["content-type"].to_s.match?(TEXT) && (body.respond_to?(:to_ary) || body.respond_to?(:to_path))

        (first?(env) || !env["REMOTE_ADDR"].to_s.match?(LOOPBACK)) && headers.fetch("content-length", LEAST).to_i >= LEAST
      end

      # Whether the browser has no cached version yet.
      def self.first?(env) = env["REQUEST_METHOD"] == "GET" && !env.key?("HTTP_IF_NONE_MATCH")
      private_class_method :first?
    end
  end
end
