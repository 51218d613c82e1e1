# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Free bytes of a folder's disk.
    module FreeSpace
      # @return [Integer, nil] nil when the system does not tell
      def self.bytes(folder)
        IO.popen(["df", "--output=avail", "-B1", folder], err: File::NULL, &:read).lines.last&.to_i
      rescue SystemCallError
        nil
      end
    end
  end
end
