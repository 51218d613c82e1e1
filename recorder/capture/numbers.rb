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
