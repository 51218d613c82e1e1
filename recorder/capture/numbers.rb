# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Gives each take its number: one more than any that is there or in a bin, or that was given before. Of two that come at the same
    # moment, such as a capture and a take that is brought in, each gets its own.
    class Numbers
      def initialize
        @given = 0
        @lock = Mutex.new
      end

      # @param folders [Array<String>] where takes are kept
      # @return [Integer]
      def next(folders)
        @lock.synchronize { @given = [@given + 1, *folders.map { |folder| TakeFiles.next_number(folder) }].max }
      end
    end
  end
end
