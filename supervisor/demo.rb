# frozen_string_literal: true

require "fileutils"
require "json"
require "net/http"

module Loomshuttle
  module Supervisor
    # bin/demo, once everything is installed. Starts desk, playback interface, recorder, player and porter, beside them the database with the demo
    # show, and then web. On Ctrl-C or TERM all of them end in the opposite order. Once started, nothing but a person ends it.
    class Demo
      # Seconds that all parts have to come.
      PATIENCE = 40
      # The web's heap begins with room for what it makes again for each version of a big show, so that an edit seldom waits for garbage to be
      # collected; 24 MB more, and the computing of 128 channels in two thirds of its time (docs/benchmarks.md).
      WEB_HEAP = { "RUBY_GC_HEAP_INIT_SLOTS" => "600000", "RUBY_GC_HEAP_FREE_SLOTS" => "300000" }.freeze
      # At 64 lanes the recorder drops 9 MB of its look-back a second, which Ruby would collect only after 128 MiB, and each thread would have a malloc
      # arena. With both limited it holds 150 MiB less (docs/benchmarks.md).
      RECORDER_HEAP = { "RUBY_GC_OLDMALLOC_LIMIT_MAX" => (32 << 20).to_s, "MALLOC_ARENA_MAX" => "1" }.freeze

      # @param arguments [Array<String>] of the command line
      # @return [Integer] exit code
      def self.main(arguments)
        new(**Options.parse(arguments)).run
      rescue Failed => e
        warn e.message
        1
      end

      # @param port [Integer, nil] nil for the port of the last start, or the first free one
      # @param beside [Integer, nil] port of the instance whose playback interface this one uses as second computer
      def initialize(port:, home:, beside: nil)
        @port, @beside = port, beside
        @home = Home.new(home)
        @children = []
      end

      # @return [Integer] exit code
      def run
        %w[TERM HUP].each { |signal| trap(signal) { @stopped = true } }
        trap("INT") { @interrupts = @interrupts.to_i + 1 }
        prepare
        start
        until @stopped
          look_after
          interrupted if @interrupts.to_i.positive?
          sleep(0.2)
        end
        tell("Stopping.")
        0
      ensure
        stop
      end

      private

      # @raise [Failed] in one sentence
      def prepare
        Runtime::Files.private!
        @home.prepare
        @home.lock
        Runtime::Log.open(File.join(@home.path, "logs"), "supervisor")
        @postgres = Postgres.new(@home.path)
        @postgres.stop_left_over
        @ports = PortChoice.ports(@port, @home.path)
        @postgres.port = @ports.database
        @parts = PartsFile.new(@home.path)
        @database = DatabaseKeeper.new(@postgres, tell: method(:tell))
      end

      # Database and sound start side by side, and the web as soon as the database is ready.
      def start
        begin_database_beside { start_sound }
        start_web
        wait_for("all parts") { health&.fetch("ok", false) }
        tell("Loomshuttle is at http://127.0.0.1:#{@ports.web}/ (Ctrl-C ends it; data is in #{@home.path})") unless @stopped
      end

      # @raise [Failed] what the database could not live with, once the others have begun
      def begin_database_beside
        @database_begins = Runtime::Task.start("prepares the database") { begin_database }
        yield
      ensure
        failed = @database_begins.value
        raise failed if failed
      end

      # @return [StandardError, nil]
      def begin_database
        @database.begin
        nil
      rescue StandardError => e
        e
      end

      def start_web
        return if @web_started

        @web_started = true
        @database.start
        child("web", @ports.web, @ports.osc, @home.path, environment: { "DATABASE_URL" => @postgres.url, **WEB_HEAP })
      end

      def start_sound
        child("desk", @ports.osc, @ports.sends, @ports.returns, @home.path, @ports.word_clock, @ports.cables, @ports.card_clock)
        child("interface", @ports.word_clock, @ports.lanes, @ports.player_clock, @ports.cables, @home.path)
        wait_for("the desk's card") do
          start_web if !@database_begins.alive? && @database_begins.value.nil?
          File.exist?(File.join(@home.path, "card-returns.sdp"))
        end
        child("recorder", @home.path, environment: RECORDER_HEAP)
        child("player", *lanes_of_player, @ports.card_clock, @ports.twin, @ports.foot, @home.path)
        child("porter", @home.path)
        make_songs
      end

      # Its own interface's, or as the second computer at another instance's.
      def lanes_of_player
        return [@ports.player_clock, @ports.lanes] unless @beside

        first = Ports.new(web: @beside)
        [first.player_clock + 1, first.lanes + 1]
      end

      # Beside everything else, since it takes a few seconds.
      def make_songs
        return if ENV["LOOMSHUTTLE_DEMO_SONGS"] == "0"

        log = File.join(@home.path, "logs", "demo_songs.out")
        script = File.join(ROOT, "processes", "demo_songs.rb")
        Process.detach(spawn(Runtime::GemPaths.environment, RbConfig.ruby, script, @home.path, out: [log, "a", 0o600], err: %i[child out], in: File::NULL, pgroup: true))
      end

      def child(name, *arguments, environment: {})
        FileUtils.rm_f(Runtime::Files.matching(@home.path, "card-*.sdp")) if name == "desk"
        child = Child.new(name, arguments.map(&:to_s), log: File.join(@home.path, "logs", "#{name}.out"), environment: environment)
        @children << child
        child.start
      end

      # One part's trouble ends no other's care.
      def look_after
        @children.each do |child|
          child.watch&.then { |words| tell(words) }
        rescue StandardError => e
          Runtime::Health.trouble(e, "looking after the #{child.name}")
        end
        @parts.tell([@database.report, *@children.map(&:report)])
      end

      # A part that does not start is reported; the others continue.
      def wait_for(what)
        deadline = Runtime::Clock.now + PATIENCE
        until yield
          return if @stopped ||= @interrupts.to_i.positive?
          return tell("Waited #{PATIENCE} s for #{what}; it is tried on. The logs are in #{File.join(@home.path, 'logs')}.") if Runtime::Clock.now > deadline

          look_after
          sleep(0.05)
        end
      end

      # Ctrl-C. Channels on take would be left there, so the first one asks.
      def interrupted
        @interrupts = 0
        channels = ask("/api/state")&.dig("positions", "take").to_i
        return @stopped = true if channels.zero? || (@warned_at && Runtime::Clock.now - @warned_at < 60)

        @warned_at = Runtime::Clock.now
        tell("#{channels} channels are on take, so the stage is not heard there. Return to stage at http://127.0.0.1:#{@ports.web}/#/soundcheck or with " \
             "bin/loomshuttle flip stage --port #{@ports.web}. Ctrl-C within a minute quits all the same and leaves them on take.")
      end

      def health = ask("/api/health")

      def ask(path)
        JSON.parse(Net::HTTP.start("127.0.0.1", @ports.web, open_timeout: 1, read_timeout: 2) { |http| http.get(path).body })
      rescue SystemCallError, JSON::ParserError, Timeout::Error, IOError
        nil
      end

      def tell(words)
        Runtime::Log.now.info(words)
        puts words
        $stdout.flush
      rescue SystemCallError, IOError
        nil # the terminal has gone
      end

      def stop
        web, others = @children.partition { |child| child.name == "web" } # whoever asks the others ends first
        [*web, *others.reverse].each(&:stop)
        @database&.stop
      end
    end
  end
end
