# frozen_string_literal: true

require "committee"
require "sequel"
require "sinatra/base"
require "json"

module Loomshuttle
  module Web
    # The HTTP side: routes, errors as JSON, and the built interface. What they do is in Control. What is read again and is as it was
    # is not sent again (ETag).
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
          use Rack::Deflater, if: Sparing.method(:compress?), sync: false
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

      # @param error [Sequel::DatabaseError]
      # @return [Array(Integer, String, String)] status, message and where
      def self.database_problem(error)
        case error.wrapped_exception
        when PG::DiskFull, PG::OutOfMemory, PG::InsufficientResources then [507, "The database's disk is full; nothing was saved. Make room and try again.", "disk"]
        when PG::NumericValueOutOfRange, PG::DataException then [400, "A number or text is beyond what can be saved. Nothing was changed.", "request"]
        else [500, "Something went wrong in the database. Nothing was changed by this request.", "request"]
        end
      end

      before { Uses.begin(who, request.request_method, request.path_info) }

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
      register Routes::Interface

      helpers do
        def json(data, code = 200)
          content_type :json
          status code
          JSON.generate(data)
        end

        def problem(code, message, where, more = {}) = json({ error: { message: message, where: where, **more } }, code)

        # An answer that takes much computing, made once for all that it depends on.
        def slowly(*key, &) = @control.slow_answers.of([request.path_info, request.query_string, *key], &)

        # As the door has let it in.
        def body_json = env.fetch(Door::BODY, {})

        # Who is at work: a name that the browser or command line gives, percent-encoded; there are no accounts here.
        def who
          name = Text.readable(Rack::Utils.unescape_path(request.get_header("HTTP_X_LOOMSHUTTLE_WHO").to_s), most: 40).strip
          name.empty? ? "somebody" : name
        rescue ArgumentError
          "somebody"
        end

        # Whether it is asked from the recording computer itself.
        def here? = env[Guard::HERE] == true

        # Whose undo it is: a name's, or that of a browser without one.
        def person
          browser = request.get_header("HTTP_X_LOOMSHUTTLE_BROWSER").to_s
          who == "somebody" && browser.match?(/\A[0-9a-z]{8,32}\z/) ? "browser #{browser}" : who
        end
      end

      error(Missing) { |e| problem(404, e.message, e.where) }
      error(Full) { |e| problem(507, e.message, e.where) }
      error(Errno::ENOSPC, Errno::EDQUOT) { problem(507, "The disk is full; nothing was saved. Make room and try again.", "disk") }
      error(Invalid) { |e| problem(422, e.message, e.where, faults: e.faults.map(&:to_h)) }
      error(RecorderLink::Away) { |e| problem(503, e.message, e.part) }
      error(Store::Database::Unknown) do
        problem(503, "The database did not confirm the change in time. It may be saved or not; the show is read again as it is. Look before you try again.", "unknown")
      end
      error(Sequel::DatabaseError) do |e|
        code, message, where = App.database_problem(e)
        Runtime::Log.surprise(e, "#{request.request_method} #{Text.readable(request.path_info)}") if code == 500
        problem(code, message, where)
      end
      error(Sequel::DatabaseConnectionError, Sequel::DatabaseDisconnectError, Sequel::PoolTimeout) { problem(503, "The database does not answer; nothing was changed. Try again in a moment.", "database") }
      error(Desk::OnTake::Undecided) { |e| problem(409, e.message, "on_take", channels: e.channels) }
      error(SlowAnswers::Busy) { |e| problem(503, e.message, "busy") }
      error(OpenShow::NotYet) { |e| problem(503, e.message, "database") }
      error(Store::Stale) { |e| problem(409, e.message, "version", version: e.version, entries: e.entries.map { |entry| entry_hash(entry, entry[:changes].first(Routes::Journal::SOME)) }) }
      error do |e|
        Runtime::Log.surprise(e, "#{request.request_method} #{Text.readable(request.path_info)}")
        problem(500, "Something went wrong inside: #{e.class}. Nothing was changed by this request.", "request")
      end
      not_found do
        response.body.empty? || response.body == ["<h1>Not Found</h1>"] ? problem(404, "There is nothing at #{Text.readable(request.path_info)}.", "address") : response.body
      end
    end
  end
end
