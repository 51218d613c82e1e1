# frozen_string_literal: true

require "fileutils"
require "json"
require "net/http"
require "shellwords"

module Loomshuttle
  module Supervisor
    # bin/demo once everything is installed: database, demo show, desk, recorder and web, in that order, until Ctrl-C or
    # TERM; then all of them end in the opposite order.
    class Demo
      LEAST_FREE = 300 * 1024 * 1024

      # @param arguments [Array<String>] of the command line
      # @return [Integer] exit code
      def self.main(arguments)
        new(**Options.parse(arguments)).run
      rescue Failed => e
        warn e.message
        1
      end

      def initialize(port:, home:)
        @ports = Ports.new(web: port)
        @home = home
        @children = []
      end

      # @return [Integer] exit code
      def run
        %w[INT TERM HUP].each { |signal| trap(signal) { @stopped = true } }
        prepare_home
        lock
        @postgres = Postgres.new(@home, @ports.database)
        @postgres.stop_left_over
        PortCheck.run(@ports)
        start
        until @stopped
          [@postgres, *@children].each { |part| part.watch&.then { |words| puts words } }
          sleep(0.2)
        end
        puts "Stopping."
        0
      ensure
        stop
      end

      private

      def prepare_home
        FileUtils.mkdir_p(File.join(@home, "logs"))
        free = `df --output=avail -B1 #{@home.shellescape}`.lines.last.to_i
        raise Failed, "The disk of #{@home} is full: #{free / 1_048_576} MB are free, 300 MB are needed. Free some, or choose another --home." if free < LEAST_FREE
      rescue SystemCallError => e
        raise Failed, "The home folder #{@home} cannot be used: #{e.message}."
      end

      # One instance a home: a second one would share its files.
      def lock
        @lock = File.open(File.join(@home, "lock"), File::RDWR | File::CREAT)
        raise Failed, "Loomshuttle runs already with the home #{@home}; use that one, or choose another --home and --port." unless @lock.flock(File::LOCK_EX | File::LOCK_NB)
      end

      def start
        @postgres.start
        @started = true
        Seed.run(@postgres.url)
        child("desk", @ports.osc, @ports.sends, @ports.returns, @home)
        wait_for("the desk's card") { File.exist?(File.join(@home, "card-returns.sdp")) }
        child("recorder", @home)
        child("porter", @home)
        child("web", @ports.web, @ports.osc, @home, environment: { "DATABASE_URL" => @postgres.url })
        wait_for("all parts") { health && health["ok"] }
        puts "Loomshuttle is at http://127.0.0.1:#{@ports.web}/ (Ctrl-C ends it; data is in #{@home})"
        $stdout.flush
      end

      def child(name, *arguments, environment: {})
        FileUtils.rm_f(Dir[File.join(@home, "card-*.sdp")]) if name == "desk"
        child = Child.new(name, arguments.map(&:to_s), log: File.join(@home, "logs", "#{name}.log"), environment: environment)
        @children << child
        child.start
      end

      def wait_for(what)
        deadline = now + 40
        until yield
          return if @stopped
          raise Failed, "Waited 40 s for #{what}; the logs are in #{File.join(@home, 'logs')}." if now > deadline

          @children.each(&:watch)
          sleep(0.1)
        end
      end

      def health
        JSON.parse(Net::HTTP.get(URI("http://127.0.0.1:#{@ports.web}/api/health")))
      rescue SystemCallError, JSON::ParserError, EOFError, Net::ReadTimeout
        nil
      end

      def stop
        @children.reverse_each(&:stop)
        @postgres.stop if @started
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
