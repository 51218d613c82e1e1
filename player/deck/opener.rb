# frozen_string_literal: true

module Loomshuttle
  module Player
    # Opens songs one at a time on a separate thread, so that a slow disk delays neither the clock, nor reading ahead, nor a stop. Before it is
    # started it works in the thread of its caller. Its thread:
    #   opener   does what it is handed
    class Opener
      # What may wait; seconds that a caller waits for his.
      MOST, PATIENCE = 50, 30

      def initialize
        @jobs = Runtime::Mailbox.new(most: MOST)
      end

      def start
        @worker = Runtime::Worker.start("opener", priority: -2) { @jobs.pop(0.5)&.call }
      end

      def stop
        @jobs.close
        @worker&.stop
      end

      # Runs the block when its turn comes, and waits for the result.
      # @return [Object] the block's result
      # @raise [Invalid] raised by the block, or if it takes too long
      def wait(&block)
        return block.call if here?

        done = Runtime::Mailbox.new(most: 1)
        @jobs << -> { done << outcome(&block) }
        kind, value = done.pop(PATIENCE) || raise(Invalid.new("The song is still loading; its disk is slow.", where: "song"))
        kind == :done ? value : raise(value)
      end

      # Runs the block when its turn comes; it replaces a waiting block of the same name.
      # @param name [Symbol]
      def later(name, &block)
        return block.call if here?

        (@newest ||= {})[name] = block
        @jobs << -> { block.call if @newest[name].equal?(block) }
      end

      private

      def here? = @worker.nil? || Thread.current.name == @worker.name

      def outcome
        [:done, yield]
      rescue StandardError => e
        [:failed, e]
      end
    end
  end
end
