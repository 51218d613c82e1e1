# frozen_string_literal: true

require "io/wait"

module Loomshuttle
  module Runtime
    # Other programs, run by their words (never by a shell), for so long and with so much to say at most. One that hangs, as `df` does on a
    # disk that is gone, is killed and left behind.
    module Programs
      # @param command [Array<String>]   @param seconds [Numeric]   @param most [Integer] bytes of output that are kept
      # @param both [Boolean] whether what it says against it is wanted, too
      # @return [Array(String, Boolean)] what it said, and whether it ended well and in time
      # @raise [SystemCallError] when there is no such program
      def self.run(*command, seconds: 5, most: 1 << 20, both: false, environment: {})
        pipe = IO.popen([environment, *command], "rb", err: both ? %i[child out] : File::NULL, in: File::NULL, pgroup: true)
        text, whole = read(pipe, Clock.now + seconds, most)
        return [text, ended(pipe)] if whole

        give_up(pipe)
        [text, false]
      end

      # Free bytes of a folder's disk.
      # @return [Integer, nil] nil when the system does not tell
      def self.free_bytes(folder)
        text, well = run("df", "--output=avail", "-B1", "--", folder, seconds: 2)
        text.lines.last.to_s[/\d+/]&.to_i if well
      rescue SystemCallError
        nil
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

        def ended(pipe)
          pid = pipe.pid
          pipe.close
          $?.pid == pid && $?.success? == true # rubocop:disable Style/SpecialGlobalVars
        end

        def give_up(pipe)
          Process.kill(:KILL, -pipe.pid)
          Process.detach(pipe.pid)
        rescue SystemCallError
          nil
        end
      end
    end
  end
end
