# frozen_string_literal: true

module Loomshuttle
  module Web
    # What Puma lets in of a request's body, asked before it spools any of it and again while it does: no more than a file may have, and no
    # more than the disk has room for. Small bodies are JSON, and always get in.
    class UploadRoom
      SMALL = 16 << 20

      # @param most [Integer] bytes of a file   @param free [Proc] gives free bytes of the disk, or nil   @param reserve [Integer] bytes kept free
      def initialize(most, free:, reserve:)
        @most, @free, @reserve = most, free, reserve
      end

      # Puma asks whether its limit is lower than this number of bytes.
      def <(other)
        return false if other <= SMALL

        free = @free.call
        other > @most || (!free.nil? && other > free - @reserve)
      end
    end
  end
end
