# frozen_string_literal: true

require "json"
require "rack"
require "securerandom"

module Loomshuttle
  module Web
    # Keeps strangers out: a Host that is not ours (DNS rebinding), a foreign Origin, and changes that are not JSON (which
    # a plain form of another site could send). Puts the security headers on every answer.
    class Guard
      POLICY = "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-%s'; font-src 'self'; img-src 'self' data:; media-src 'self'; " \
               "connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
      SAFE = %w[GET HEAD].freeze

      # @param hosts [Array<String>] names this application is reached by
      def initialize(app, hosts:)
        @app = app
        @hosts = hosts
      end

      def call(env)
        request = Rack::Request.new(env)
        env["loomshuttle.nonce"] = nonce = SecureRandom.base64(16)
        problem = refusal(request)
        status, headers, body = problem ? refuse(*problem) : @app.call(env)
        [status, headers.merge(security(nonce)), body]
      end

      private

      def refusal(request)
        return [403, "This is not #{request.host}; open the address that the start command printed.", "host"] unless @hosts.include?(request.host)

        origin = request.get_header("HTTP_ORIGIN")
        return [403, "Requests from #{origin} are not accepted.", "origin"] if origin && origin != "#{request.scheme}://#{request.host_with_port}"
        return if SAFE.include?(request.request_method) || (request.put? && request.media_type == "application/octet-stream")

        [415, "Changes are accepted as JSON only; send Content-Type: application/json.", "content-type"] unless request.media_type == "application/json"
      end

      def refuse(status, message, where)
        [status, { "content-type" => "application/json" }, [JSON.generate({ error: { message: message, where: where } })]]
      end

      def security(nonce)
        { "content-security-policy" => format(POLICY, nonce), "x-content-type-options" => "nosniff", "referrer-policy" => "no-referrer",
          "x-frame-options" => "DENY", "cross-origin-opener-policy" => "same-origin" }
      end
    end
  end
end
