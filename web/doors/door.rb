# frozen_string_literal: true

require "json"
require "rack"
require "stringio"

module Loomshuttle
  module Web
    # Checks each request once before the contract (Contract) does: a readable address and query, and a JSON body of bounded size with text that can
    # be saved and numbers in range.
    class Door
      # Bytes of a body, by route; of all others DEFAULT.
      DEFAULT = 256 << 10
      LIMITS = [[%r{\A/api/shows\z}, 8 << 20], [%r{\A/api/(edits|steps|steps/preview)\z}, 4 << 20], [%r{\A/api/(profiles|takes/[^/]+|desk/(send|read))\z}, 2 << 20]].freeze
      # Bytes of a file that is sent; beyond it Puma reads no further.
      UPLOAD = 4 << 30
      ADDRESS, QUERY = 2000, 4000
      DEEPEST = 24
      NAME = /\A[a-z_]{1,30}\z/
      BODY = "loomshuttle.body"

      def initialize(app)
        @app = app
      end

      def call(env)
        check_address(env)
        check_query(env)
        read_body(env) unless env["CONTENT_TYPE"].to_s.start_with?("application/octet-stream")
        @app.call(env)
      rescue Invalid => e
        Door.refuse(e.where == "size" ? 413 : 400, e.message, e.where)
      end

      # @return [Array] a Rack response that says what, where and what to do
      def self.refuse(status, message, where) = [status, { "content-type" => "application/json" }, [JSON.generate({ error: { message: message, where: where } })]]

      private

      def check_address(env)
        address = env["PATH_INFO"].to_s
        refuse("The address is longer than #{ADDRESS} characters.", "address") if address.bytesize > ADDRESS
        plain = Rack::Utils.unescape_path(address)
        Text.keep(plain, "The address", most: ADDRESS, lines: false)
      rescue ArgumentError
        refuse("The address cannot be read.", "address")
      end

      # Each name once, and no lists: nothing here has any.
      def check_query(env)
        query = env["QUERY_STRING"].to_s
        refuse("The query is longer than #{QUERY} characters.", "query") if query.bytesize > QUERY
        names = query.split("&").reject(&:empty?).map do |pair|
          name, value = pair.split("=", 2).map { |part| decoded(part) }
          refuse("The query has \"#{Text.readable(name, most: 40)}\", which is not a parameter name.", "query") unless name.to_s.match?(NAME)
          Text.keep(value.to_s, "query/#{name}", most: 1000, lines: false)
          name
        end
        twice = names.tally.find { |_, count| count > 1 } and refuse("The query has #{twice.first} twice.", "query")
      end

      def decoded(part)
        text = Rack::Utils.unescape(part)
        part.include?("\0") || !text.valid_encoding? ? refuse("The query is not readable as UTF-8.", "query") : text
      rescue ArgumentError
        refuse("The query cannot be read.", "query")
      end

      def read_body(env)
        input = env["rack.input"] or return
        most = LIMITS.find { |route, _| env["PATH_INFO"].match?(route) }&.last || DEFAULT
        text = input.read(most + 1).to_s
        raise Invalid.new("The request's body is larger than #{most >> 10} KiB.", where: "size") if text.bytesize > most
        return if text.empty?

        body = parsed(text)
        env[BODY] = body
        clean = JSON.generate(body)
        env["rack.input"] = StringIO.new(clean)
        env["CONTENT_LENGTH"] = clean.bytesize.to_s
      end

      def parsed(text)
        body = JSON.parse(text.force_encoding(Encoding::UTF_8), max_nesting: DEEPEST)
        refuse("The request's body is a JSON object.", "body") unless body.is_a?(Hash)
        Document.keep(body, "body")
      rescue JSON::ParserError, EncodingError, ArgumentError
        refuse("The request's body is not JSON.", "body")
      end

      def refuse(message, where) = raise(Invalid.new(message, where: where))
    end
  end
end
