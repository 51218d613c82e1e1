# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Numbers takes: one more than any that exists, is in a bin, or was given before. Concurrent requests, such as a capture and an import, get
    # different numbers.
    class Numbers
      def initialize
        @given = 0
        @lock = Mutex.new
      end

      # @param folders [Array<String>] that hold takes
      # @return [Integer]
      def next(folders)
        @lock.synchronize { @given = [@given + 1, *folders.map { |folder| free(folder) }].max }
      end

      private

      # @return [Integer] one more than any that is there, or in its bin
      def free(folder)
        there = [folder, File.join(folder, TakeChange::BIN)].select { |one| Dir.exist?(one) }
        (there.flat_map { |one| Dir.children(one).filter_map { |entry| entry[/\A(\d+) /, 1]&.to_i } }.max || 0) + 1
      end
    end
  end
end
