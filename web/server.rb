# frozen_string_literal: true

require "puma"
require "puma/configuration"
require "puma/launcher"

module Loomshuttle
  module Web
    # The web process: one Puma of a few threads, more than may wait for the recorder at once, and the threads of Control and what it
    # holds beside it.
    class Server
      THREADS = 12

      # @param url [String] of the database  @param bind [String] address to listen on
      # @param proxy [String, nil] address of a reverse proxy   @param folders [Array<String>, nil] below which deliveries may lie
      def initialize(url:, home:, port:, desk_port:, bind: "127.0.0.1", hosts: [], proxy: nil, folders: nil)
        SlowClients.install
        Runtime::Spool.use(home, "web") # Puma keeps there what is sent
        database = Store::Database.connect(url)
        shows = Store::Shows.new(database, Rig::Catalog.read(File.join(ROOT, "profiles")))
        @control = Control.new(shows: shows, database: database, home: home, desk_port: desk_port, folders: folders)
        app = App.guarded(@control, hosts: ["127.0.0.1", "localhost", "::1", *hosts], proxy: proxy)
        @launcher = Puma::Launcher.new(Puma::Configuration.new do |config|
          config.bind("tcp://#{bind}:#{port}")
          config.threads(2, THREADS)
          config.http_content_length_limit(UploadRoom.new(Door::UPLOAD, free: -> { @control.free_bytes }, reserve: SentFiles::RESERVE))
          config.first_data_timeout(20)
          config.app(app)
          config.lowlevel_error_handler(method(:unreadable))
          config.quiet
          config.raise_exception_on_sigterm(false)
          config.tag("loomshuttle")
          config.environment("production")
        end, log_writer: Puma::LogWriter.new($stdout, $stderr))
      end

      # Runs until stop.
      def run
        @control.start
        @launcher.run
      ensure
        @control.stop
      end

      def stop = @launcher.stop

      private

      # What never became a request, in the words of all other refusals.
      def unreadable(error, _env, status)
        broken = [Puma::HttpParserError, Puma::HttpParserError501, RangeError].any? { |kind| error.is_a?(kind) }
        Runtime::Log.surprise(error, "a request") unless broken
        why = error.is_a?(RangeError) ? "a size in it is beyond anything." : Text.readable(error.message, most: 120)
        message = broken ? "The request cannot be read: #{why}" : "Something went wrong before the request was answered."
        Door.refuse(broken && status == 500 ? 400 : status, message, "request")
      end
    end
  end
end
