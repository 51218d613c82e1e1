# frozen_string_literal: true

require "committee"
require "sequel"
require "sinatra/base"
require "json"

module Loomshuttle
  module Web
    # The HTTP application: routes, errors as JSON, and the built screens. Routes only translate; the work is done by Control. Unchanged answers are
    # not sent again (ETag).
    class App < Sinatra::Base
      UI = File.join(ROOT, "ui", "dist")

      set :host_authorization, { permitted_hosts: [] } # Guard does this
      set :show_exceptions, false
      set :raise_errors, false
      set :dump_errors, false
      set :static, false
      disable :protection, :sessions, :logging

      # @param control [Control]
      # @param hosts [Array<String>]
      # @return [Proc] the Rack application with its guards
      def self.guarded(control, hosts: %w[127.0.0.1 localhost ::1], proxy: nil)
        inner = new(nil, control)
        Rack::Builder.app do
          use Guard, hosts: hosts, proxy: proxy
          use Rack::Deflater, if: Compression.method(:compress?), sync: false
          use Rack::ConditionalGet
          use Rack::ETag
          use HeadAsGet
          use Door
          use Committee::Middleware::RequestValidation, **Contract.options
          run inner
        end
      end

      def initialize(app, control)
        super(app)
        @control = control
        @steps = ComputedEdits.new(control)
        @comparison = Comparison.new(control)
      end

      before { RequestLog.begin(who, request.request_method, request.path_info) }

      register Routes::Plan
      register Routes::HearingRoutes
      register Routes::Journal
      register Routes::LibraryRoutes
      register Routes::Papers
      register Routes::InputLists
      register Routes::DeskRoutes
      register Routes::LineCheckRoutes
      register Routes::Sound
      register Routes::TakeRoutes
      register Routes::JobRoutes
      register Routes::DeliveryRoutes
      register Routes::SongRoutes
      register Routes::PlayerRoutes
      register Routes::Screens

      helpers do
        def json(data, code = 200)
          content_type :json
          status code
          JSON.generate(data)
        end

        def problem(code, message, where, more = {}) = json({ error: { message: message, where: where, kind: Statuses.kind(code), **more } }, code)

        # An answer that is expensive to compute; computed once for everything it depends on.
        def slowly(*key, &) = @control.slow_answers.of([request.path_info, request.query_string, *key], &)

        # The parsed body, already checked by the door.
        def body_json = env.fetch(Door::BODY, {})

        # The person's name as sent by the browser or command line, percent-encoded; nobody has to log in.
        def who
          name = Text.readable(Rack::Utils.unescape_path(request.get_header("HTTP_X_LOOMSHUTTLE_WHO").to_s), most: 40).strip
          name.empty? ? "somebody" : name
        rescue ArgumentError
          "somebody"
        end

        # Whether the request comes from the recording computer itself.
        def here? = env[Guard::HERE] == true

        # Whose undo stack to use: the person's, or the browser's if it sends no name.
        def person
          browser = request.get_header("HTTP_X_LOOMSHUTTLE_BROWSER").to_s
          who == "somebody" && browser.match?(/\A[0-9a-z]{8,32}\z/) ? "browser #{browser}" : who
        end
      end

      error(Store::Stale) { |e| problem(409, e.message, "version", kind: "stale", version: e.version, entries: e.entries.map { |entry| entry_hash(entry, entry[:changes].first(Routes::Journal::SOME)) }) }
      error(Problem) { |e| problem(Statuses.of(e), e.message, e.where, kind: e.kind, **e.details) }
      error do |e|
        code, message, where = Statuses.of_error(e) || [500, "Something went wrong inside: #{e.class}. Nothing was changed by this request.", "request"]
        Runtime::Log.surprise(e, "#{request.request_method} #{Text.readable(request.path_info)}") if code == 500
        problem(code, message, where)
      end
      not_found do
        response.body.empty? || response.body == ["<h1>Not Found</h1>"] ? problem(404, "There is nothing at #{Text.readable(request.path_info)}.", "address") : response.body
      end
    end
  end
end
