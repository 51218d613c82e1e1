# frozen_string_literal: true

module Loomshuttle
  module Web
    # Free bytes on the disk of the takes. Whoever asks gets the latest known value, even if the disk hangs. Its thread:
    #   looks at the disk   asks the system every few seconds
    class FreeSpace
      EVERY = 5

      # @return [Integer, nil] nil while the system does not tell
      attr_reader :bytes

      def initialize(folder)
        @folder = folder
        FileUtils.mkdir_p(folder)
        @bytes = Runtime::FreeBytes.of(folder)
      end

      def start
        @worker = Runtime::Worker.start("looks at the disk") do |worker|
          worker.rest(EVERY)
          @bytes = Runtime::FreeBytes.of(@folder)
        end
      end

      def stop = @worker&.stop
    end
  end
end
