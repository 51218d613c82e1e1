# frozen_string_literal: true

module Loomshuttle
  module Supervisor
    # One process that is kept running: started in a group of its own, so that Ctrl-C reaches the supervisor alone, and started again when
    # it ends unasked. One that ends again and again is given up alone: it is tried again with growing pauses, and without what it may have
    # died of (LOOMSHUTTLE_CAUTIOUS). One that ends well, as a desk does that starts again, is started at once.
    class Child
      # This many failures within this many seconds, and it is given up.
      HOPELESS = 5
      WITHIN = 60
      # Pauses before it is started again (seconds): while it is not given up, and afterwards.
      PAUSES = [0, 0.5, 1, 2].freeze
      LONG_PAUSES = [5, 10, 20, 40, 80, 160, 300].freeze
      # Running for so long, and all is forgotten.
      STEADY = 60
      # Ends that were well, within a second, before there is a pause as well.
      BUSY = 5
      # Bytes of what it prints before that is put away.
      OUTPUT = 1 << 20

      attr_reader :name

      # @param name [String] of the script in processes/
      # @param arguments [Array<String>]  @param environment [Hash]  @param log [String] file for its output
      # @param now [Proc] monotonic time in seconds
      def initialize(name, arguments, log:, environment: {}, now: Runtime::Clock.method(:now))
        @name, @arguments, @log, @environment, @now = name, arguments, log, environment, now
        @failures, @ends = [], []
        @long = 0
      end

      # @raise [SystemCallError] if the system cannot start another process
      def start
        put_away_output
        script = File.join(ROOT, "processes", "#{@name}.rb")
        environment = { **Runtime::GemPaths.environment, **@environment, **(given_up? ? { "LOOMSHUTTLE_CAUTIOUS" => "1" } : {}) }
        @started_at = @now.call
        @start_at = nil
        @pid = spawn(environment, RbConfig.ruby, script, *@arguments, out: [@log, "a", 0o600], err: %i[child out], in: File::NULL, pgroup: true)
      rescue SystemCallError => e
        failed("it could not be started: #{e.message}")
      end

      def given_up? = @given_up == true

      # Checks on the process and restarts it if necessary. Never waits.
      # @return [String, nil] a message for people
      def watch
        return look_at_end if @pid
        return unless @start_at && @now.call >= @start_at

        start
        nil
      end

      # @return [Hash] name, state ("running", "starting" or "given up"), words or nil
      def report
        return { "name" => @name, "state" => "running", "words" => nil } if @pid && !given_up?

        { "name" => @name, "state" => given_up? ? "given up" : "starting", "words" => @words }
      end

      # Asks it to end, and ends it when it does not.
      def stop(seconds: 10)
        @start_at = nil
        return unless @pid

        Process.kill(:TERM, @pid)
        deadline = @now.call + seconds
        until Process.wait(@pid, Process::WNOHANG)
          Process.kill(:KILL, @pid) if @now.call > deadline
          sleep(0.05)
        end
        @pid = nil
      rescue Errno::ESRCH, Errno::ECHILD
        @pid = nil
      end

      private

      def look_at_end
        _, status = Process.wait2(@pid, Process::WNOHANG)
        return steady unless status

        @pid = nil
        status.success? ? ended : failed(last_words)
      rescue Errno::ECHILD
        @pid = nil
        failed("it was gone")
      end

      def steady
        return unless (@failures.any? || given_up?) && @now.call - @started_at > STEADY

        was, @given_up, @long = given_up?, false, 0
        @failures.clear
        "The #{@name} runs again." if was
      end

      def ended
        @ends = @ends.last(BUSY) << @now.call
        pause = @ends.size > BUSY && @ends.last - @ends.first < 1 ? 1 : 0
        @start_at = @now.call + pause
        "The #{@name} ended and was restarted."
      end

      def failed(why)
        now = @now.call
        @pid = nil
        @failures = @failures.select { |at| now - at < WITHIN } << now
        @given_up ||= @failures.size >= HOPELESS
        pause = given_up? ? LONG_PAUSES[[(@long += 1) - 1, LONG_PAUSES.size - 1].min] : PAUSES[[@failures.size - 1, PAUSES.size - 1].min]
        @start_at = now + pause
        @words = given_up? ? "The #{@name} keeps failing; retrying every #{pause} s. Last error: #{why}" : nil
        given_up? ? @words : "The #{@name} ended and was restarted."
      end

      def last_words = Text.readable(File.readlines(@log).last(3).map(&:strip).join(" | "), most: 500)

      def put_away_output
        File.rename(@log, "#{@log}.1") if File.exist?(@log) && File.size(@log) > OUTPUT
      end
    end
  end
end
