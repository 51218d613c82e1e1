# frozen_string_literal: true

require "committee"
require "sequel"
require "sinatra/base"
require "json"

module Loomshuttle
  module Web
    # The HTTP side: routes, errors as JSON, and the built interface. What they do is in Control.
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
      def self.guarded(control, hosts: %w[127.0.0.1 localhost ::1 [::1]])
        inner = new(nil, control)
        Rack::Builder.app do
          use Guard, hosts: hosts
          use Committee::Middleware::RequestValidation, **Contract.options
          run inner
        end
      end

      def initialize(app, control)
        super(app)
        @control = control
        @steps = Steps.new(control)
        @comparison = Comparison.new(control)
      end

      register Routes::Plan
      register Routes::Journal
      register Routes::LibraryRoutes
      register Routes::Papers
      register Routes::DeskRoutes
      register Routes::LineCheckRoutes
      register Routes::Sound
      register Routes::TakeRoutes
      register Routes::JobRoutes
      register Routes::DeliveryRoutes
      register Routes::Interface

      helpers do
        def json(data, code = 200)
          content_type :json
          status code
          JSON.generate(data)
        end

        def problem(code, message, where, more = {}) = json({ error: { message: message, where: where, **more } }, code)

        def body_json
          @body_json ||= begin
            text = request.body.read
            request.body.rewind if request.body.respond_to?(:rewind)
            text.empty? ? {} : JSON.parse(text)
          end
        end

        # Who is at work: a name that the browser or command line gives, percent-encoded; there are no accounts here.
        def who
          name = Rack::Utils.unescape_path(request.get_header("HTTP_X_LOOMSHUTTLE_WHO").to_s).dup.force_encoding("UTF-8").scrub("").strip[0, 40]
          name.empty? ? "somebody" : name
        end
      end

      error(Invalid) { |e| problem(422, e.message, e.where, faults: e.faults.map(&:to_h)) }
      error(JSON::ParserError) { problem(400, "The request's body is not JSON.", "body") }
      error(RecorderLink::Away) { |e| problem(503, e.message, "recorder") }
      error(Sequel::DatabaseError, Sequel::PoolTimeout) { problem(503, "The database does not answer; nothing was changed. Try again in a moment.", "database") }
      error(Store::Stale) { |e| problem(409, e.message, "version", version: e.version, entries: e.entries.map { |entry| entry_hash(entry, entry[:changes].first(Routes::Journal::SOME)) }) }
      error do |e|
        warn e.full_message(highlight: false)
        problem(500, "Something went wrong inside: #{e.class}. Nothing was changed by this request.", request.path_info)
      end
      not_found { response.body.empty? || response.body == ["<h1>Not Found</h1>"] ? problem(404, "There is nothing at #{request.path_info}.", request.path_info) : response.body }
    end
  end
end
