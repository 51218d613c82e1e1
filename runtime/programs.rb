# frozen_string_literal: true

require "io/wait"

module Loomshuttle
  module Runtime
    # Runs other programs by their arguments (never by a shell), with limits on time and output. A program that hangs, or closes its output and does
    # not end, is killed.
    module Programs
      # @param command [Array<String>]   @param seconds [Numeric]   @param most [Integer] bytes of output that are kept
      # @param both [Boolean] whether what it says against it is wanted, too
      # @param memory [Integer, nil] bytes of memory that it may take   @param processor [Integer, nil] seconds of processor time
      # @return [Array(String, Boolean)] what it said, and whether it ended well and in time
      # @raise [SystemCallError] when there is no such program
      def self.run(*command, seconds: 5, most: 1 << 20, both: false, environment: {}, memory: nil, processor: nil)
        limits = { rlimit_as: memory, rlimit_cpu: processor }.compact
        deadline = Clock.now + seconds
        pipe = IO.popen([environment, *command], "rb", err: both ? %i[child out] : File::NULL, in: File::NULL, pgroup: true, **limits)
        text, whole = read(pipe, deadline, most)
        return [text, ended?(pipe, deadline - Clock.now)] if whole

        end_it(pipe)
        [text, false]
      end

      # Waits for the end of a program that has said everything.
      # @param pipe [IO] that it was opened with   @param seconds [Numeric] it has; then it is killed
      # @return [Boolean] whether it ended well
      def self.ended?(pipe, seconds)
        waiting = Process.detach(pipe.pid)
        return end_it(pipe) && false unless waiting.join([seconds, 0.01].max)

        waiting.value&.success? == true
      ensure
        pipe.close unless pipe.closed?
      end

      # Kills a program with all that it has started.
      # @return [true]
      def self.end_it(pipe)
        Process.kill(:KILL, -pipe.pid)
        true
      rescue SystemCallError
        kill(pipe)
      ensure
        Process.detach(pipe.pid)
      end

      class << self
        private

        def read(pipe, deadline, most)
          text = "".b
          loop do
            return [text, false] unless (left = deadline - Clock.now).positive? && pipe.wait_readable(left)

            part = pipe.read_nonblock(65_536, exception: false)
            return [text, true] if part.nil?

            text << part if part.is_a?(String) && text.bytesize < most
          end
        end

        # One without its own process group.
        def kill(pipe)
          Process.kill(:KILL, pipe.pid)
          true
        rescue SystemCallError
          true
        end
      end
    end
  end
end
