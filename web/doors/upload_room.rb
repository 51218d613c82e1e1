# frozen_string_literal: true

module Loomshuttle
  module Web
    # Limits request bodies before and while Puma buffers them: to the largest allowed file, and to the free disk space. Small bodies are JSON and
    # always accepted.
    class UploadRoom
      SMALL = 16 << 20

      # @param most [Integer] largest file in bytes   @param free [Proc] returns the free bytes of the disk, or nil   @param reserve [Integer] bytes to keep free
      def initialize(most, free:, reserve:)
        @most, @free, @reserve = most, free, reserve
      end

      # Puma uses this to compare its limit with the length of a request.
      def <(other)
        return false if other <= SMALL

        free = @free.call
        other > @most || (!free.nil? && other > free - @reserve)
      end
    end
  end
end
