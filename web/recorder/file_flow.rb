# frozen_string_literal: true

module Loomshuttle
  module Web
    # A file for a StreamWriter, from any byte on.
    class FileFlow
      PART = 256 << 10

      # @raise [SystemCallError]
      def initialize(path)
        @file = File.open(path, "rb")
        @at, @upto = 0, size
      end

      def size = @file.size

      # @return [FileFlow] with only these bytes
      def part(first, upto)
        @at, @upto = first, upto
        self
      end

      def next_part
        bytes = @at < @upto ? @file.pread([PART, @upto - @at].min, @at) : nil
        @at += bytes.bytesize if bytes
        bytes
      rescue EOFError
        nil
      end

      def close = @file.close
    end
  end
end
