# frozen_string_literal: true

require "puma"
require "puma/configuration"
require "puma/launcher"

module Loomshuttle
  module Web
    # The web process: one Puma of a few threads, Control's own threads beside it (live feed, desk, recorder, takes).
    class Server
      THREADS = 5

      # @param url [String] of the database  @param bind [String] address to listen on
      def initialize(url:, home:, port:, desk_port:, bind: "127.0.0.1", hosts: [])
        database = Store::Database.connect(url)
        shows = Store::Shows.new(database, Rig::Catalog.read(File.join(ROOT, "profiles")))
        @control = Control.new(shows: shows, database: database, home: home, desk_port: desk_port)
        app = App.guarded(@control, hosts: ["127.0.0.1", "localhost", *hosts])
        @launcher = Puma::Launcher.new(Puma::Configuration.new do |config|
          config.bind("tcp://#{bind}:#{port}")
          config.threads(1, THREADS)
          config.app(app)
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
    end
  end
end
