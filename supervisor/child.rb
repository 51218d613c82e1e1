# frozen_string_literal: true

module Loomshuttle
  module Supervisor
    # One process that is kept running: started in a group of its own, so that Ctrl-C reaches the supervisor alone, and
    # started again when it ends unasked.
    class Child
      # This many ends within this many seconds, and it is hopeless.
      HOPELESS = 5
      WITHIN = 20

      attr_reader :name

      # @param name [String] of the script in processes/
      # @param arguments [Array<String>]  @param environment [Hash]  @param log [String] file
      def initialize(name, arguments, log:, environment: {})
        @name, @arguments, @log, @environment = name, arguments, log, environment
        @ends = []
      end

      def start
        script = File.join(ROOT, "processes", "#{@name}.rb")
        @pid = spawn(@environment, RbConfig.ruby, script, *@arguments, out: [@log, "a"], err: %i[child out], in: File::NULL, pgroup: true)
      end

      # Looks after it.
      # @return [String, nil] what is to be told
      # @raise [Failed] when it ends again and again
      def watch
        return unless @pid && Process.wait(@pid, Process::WNOHANG)

        now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        @ends = @ends.select { |at| now - at < WITHIN } << now
        raise Failed, "The #{@name} ends again and again; its last words are in #{@log}: #{last_words}" if @ends.size >= HOPELESS

        start
        "The #{@name} had ended; it was started again."
      end

      # Asks it to end, and ends it when it does not.
      def stop(seconds: 10)
        return unless @pid

        Process.kill(:TERM, @pid)
        deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
        until Process.wait(@pid, Process::WNOHANG)
          Process.kill(:KILL, @pid) if Process.clock_gettime(Process::CLOCK_MONOTONIC) > deadline
          sleep(0.05)
        end
        @pid = nil
      rescue Errno::ESRCH, Errno::ECHILD
        @pid = nil
      end

      private

      def last_words = File.readlines(@log).last(3).map(&:strip).join(" | ")
    end
  end
end
