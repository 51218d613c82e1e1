# frozen_string_literal: true

module Loomshuttle
  module Web
    # Free bytes of the capture disk, asked of the system at most every few seconds.
    class FreeSpace
      EVERY = 5

      def initialize(folder)
        @folder = folder
        @lock = Mutex.new
      end

      # @return [Integer, nil] nil when the system does not tell
      def bytes
        @lock.synchronize do
          return @bytes if @asked && now - @asked < EVERY

          @asked = now
          @bytes = ask
        end
      end

      private

      def ask
        IO.popen(["df", "--output=avail", "-B1", @folder], err: File::NULL, &:read).lines.last&.to_i
      rescue SystemCallError
        nil
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    end
  end
end
