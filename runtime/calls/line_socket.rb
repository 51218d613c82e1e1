# frozen_string_literal: true

require "io/wait"

module Loomshuttle
  module Runtime
    # Whole lines over a socket in either direction, each with a deadline and a limit. One thread reads; any may write.
    class LineSocket
      # The other side did not do its part in time, or sends without end.
      class Late < StandardError; end

      # @param socket [IO]   @param most [Integer] longest line to read, in bytes
      def initialize(socket, most: 8 << 20)
        @socket, @most = socket, most
        @left = "".b
        @writing = Mutex.new
      end

      # @param seconds [Numeric, nil] longest wait; nil for ever
      # @return [String, nil] a line without its line break; nil if the other side has closed
      # @raise [Late]
      def gets(seconds = nil)
        deadline = seconds && (Clock.now + seconds)
        at = 0
        until (ends = @left.index("\n", at))
          raise Late, "a line is longer than #{@most} bytes" if @left.bytesize > @most

          at = @left.bytesize
          part = read(deadline) or return
          @left << part
        end
        @left.slice!(0..ends).chomp.force_encoding(Encoding::UTF_8)
      end

      # Writes a whole line of any size.
      # @raise [Late] if it is not accepted in time; nothing more can be written then   @raise [SystemCallError, IOError]
      def puts(line, seconds)
        bytes = "#{line}\n".b
        deadline = Clock.now + seconds
        @writing.synchronize do
          until bytes.empty?
            written = @socket.write_nonblock(bytes, exception: false)
            next bytes = bytes.byteslice(written..) unless written == :wait_writable

            left = deadline - Clock.now
            raise Late, "the other side does not read" unless left.positive? && @socket.wait_writable(left)
          end
        end
      end

      def close
        @socket.close
      rescue IOError, SystemCallError
        nil
      end

      private

      def read(deadline)
        loop do
          part = @socket.read_nonblock(65_536, exception: false)
          return part unless part == :wait_readable

          left = deadline && (deadline - Clock.now)
          raise Late, "the other side does not answer" if left && !left.positive?

          @socket.wait_readable(left)
        end
      end
    end
  end
end
