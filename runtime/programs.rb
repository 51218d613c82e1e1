# frozen_string_literal: true

require "io/wait"

module Loomshuttle
  module Runtime
    # Runs other programs by their arguments (never by a shell), with limits on time and output. A program that hangs, or closes its output and does
    # not end, is killed.
    module Programs
      # @param command [Array<String>]   @param seconds [Numeric] time limit   @param most [Integer] bytes of output to keep
      # @param both [Boolean] whether to include standard error
      # @param memory [Integer, nil] limit of memory in bytes   @param processor [Integer, nil] limit of processor time in seconds
      # @return [Array(String, Boolean)] output, and whether it succeeded in time
      # @raise [SystemCallError] if there is no such program
      def self.run(*command, seconds: 5, most: 1 << 20, both: false, environment: {}, memory: nil, processor: nil)
        limits = { rlimit_as: memory, rlimit_cpu: processor }.compact
        deadline = Clock.now + seconds
        pipe = IO.popen([environment, *command], "rb", err: both ? %i[child out] : File::NULL, in: File::NULL, pgroup: true, **limits)
        text, whole = read(pipe, deadline, most)
        return [text, ended?(pipe, deadline - Clock.now)] if whole

        end_it(pipe)
        [text, false]
      end

      # Waits for the end of a program that has closed its output.
      # @param pipe [IO] of the program   @param seconds [Numeric] time limit, after which it is killed
      # @return [Boolean] whether it succeeded
      def self.ended?(pipe, seconds)
        waiting = Process.detach(pipe.pid)
        return end_it(pipe) && false unless waiting.join([seconds, 0.01].max)

        waiting.value&.success? == true
      ensure
        pipe.close unless pipe.closed?
      end

      # Kills a program and all its children.
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
