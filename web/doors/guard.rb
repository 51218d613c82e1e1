# frozen_string_literal: true

require "ipaddr"
require "json"
require "rack"
require "securerandom"

module Loomshuttle
  module Web
    # Rejects requests from elsewhere: a Host that is not ours (DNS rebinding), a foreign Origin, requests of another site's pages (W3C Fetch
    # Metadata Request Headers), and changes that are not JSON, which another site's form could send. The Host header alone says who we are;
    # forwarded headers count only from the configured proxy. Adds the security headers to every answer, errors included.
    class Guard
      POLICY = "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-%s'; font-src 'self'; img-src 'self' data:; media-src 'self'; " \
               "connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
      METHODS = %w[GET HEAD POST PUT DELETE].freeze
      SAFE = %w[GET HEAD].freeze
      OWN_SITES = %w[same-origin none].freeze
      JSON_TYPE = %r{\Aapplication/json\s*(;|\z)}i
      FILE_TYPE = %r{\Aapplication/octet-stream\s*(;|\z)}i
      # Whether a request comes from the recording computer itself: from there alone players are paired.
      HERE = "loomshuttle.here"
      AUTHORITY = /\A(\[[0-9a-f:.]+\]|[a-z0-9.-]+)(:\d{1,5})?\z/i

      # @param hosts [Array<String>] names by which this application may be addressed   @param proxy [String, nil] address of a reverse proxy
      def initialize(app, hosts:, proxy: nil)
        @app, @hosts, @proxy = app, hosts, proxy
      end

      def call(env)
        env["loomshuttle.nonce"] = nonce = SecureRandom.base64(16)
        env[HERE] = here?(env)
        forget_forwarded(env)
        problem = refusal(env)
        status, headers, body = problem ? Door.refuse(*problem) : answer(env)
        [status, headers.merge(security(nonce)), body]
      end

      private

      # What a proxy passes on comes from anywhere.
      def here?(env)
        address = env["REMOTE_ADDR"].to_s
        (IPAddr.new(address).loopback? || address.empty?) && address != @proxy
      rescue IPAddr::Error
        false
      end

      def answer(env)
        @app.call(env)
      rescue StandardError => e
        Runtime::Log.surprise(e, "#{env['REQUEST_METHOD']} #{Text.readable(env['PATH_INFO'], most: 200)}")
        Door.refuse(500, "Something went wrong inside: #{e.class}. Nothing was changed by this request.", "request")
      end

      # Nothing behind us looks at them either.
      def forget_forwarded(env)
        if @proxy && env["REMOTE_ADDR"] == @proxy && env["HTTP_X_FORWARDED_HOST"]
          env["HTTP_HOST"] = env["HTTP_X_FORWARDED_HOST"].split(",").last.to_s.strip
          env["rack.url_scheme"] = "https" if env["HTTP_X_FORWARDED_PROTO"] == "https"
        end
        %w[HTTP_X_FORWARDED_HOST HTTP_X_FORWARDED_PROTO HTTP_X_FORWARDED_SCHEME HTTP_X_FORWARDED_SSL HTTP_X_FORWARDED_PORT HTTP_X_FORWARDED_FOR HTTP_FORWARDED
           HTTP_X_HTTP_METHOD_OVERRIDE HTTP_X_SENDFILE_TYPE HTTP_X_ACCEL_MAPPING].each { |name| env.delete(name) }
      end

      def refusal(env)
        authority = env["HTTP_HOST"].to_s
        return [403, "This is not #{Text.readable(authority, most: 60)}; open the address that the start command printed.", "host"] unless ours?(authority)

        origin = env["HTTP_ORIGIN"]
        return [403, "Requests from #{Text.readable(origin, most: 60)} are not accepted.", "origin"] if origin && origin != "#{env['rack.url_scheme']}://#{authority}"
        return [403, "Requests from other sites are not accepted; open the address itself.", "site"] if from_another_site?(env)
        return [405, "There is no #{Text.readable(env['REQUEST_METHOD'], most: 20)} here.", "method"] unless METHODS.include?(env["REQUEST_METHOD"])
        return if SAFE.include?(env["REQUEST_METHOD"])

        what, type, name = env["REQUEST_METHOD"] == "PUT" ? ["Files are put", FILE_TYPE, "application/octet-stream"] : ["Changes are taken as JSON", JSON_TYPE, "application/json"]
        [415, "#{what} only with Content-Type: #{name}.", "content-type"] unless env["CONTENT_TYPE"].to_s.match?(type)
      end

      # A link on another site may open the page, and nothing else. Browsers that do not say where a request comes from are judged by Origin.
      def from_another_site?(env)
        site = env["HTTP_SEC_FETCH_SITE"]
        return false if site.nil? || OWN_SITES.include?(site)

        opens_page = env["REQUEST_METHOD"] == "GET" && env["HTTP_SEC_FETCH_MODE"] == "navigate" && env["HTTP_SEC_FETCH_DEST"] == "document"
        !opens_page || env["PATH_INFO"].to_s.start_with?("/api/")
      end

      def ours?(authority)
        name = authority.match(AUTHORITY)&.[](1)
        !name.nil? && (@hosts.include?(name.downcase) || @hosts.include?(name.downcase.delete("[]")))
      end

      def security(nonce)
        { "content-security-policy" => format(POLICY, nonce), "x-content-type-options" => "nosniff", "referrer-policy" => "no-referrer",
          "x-frame-options" => "DENY", "cross-origin-opener-policy" => "same-origin", "cross-origin-resource-policy" => "same-origin" }
      end
    end
  end
end
