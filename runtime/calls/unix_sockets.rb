# frozen_string_literal: true

require "socket"

module Loomshuttle
  module Runtime
    # Unix sockets at paths of any length. The kernel takes 107 bytes at most (unix(7)); a longer path is reached through its open folder.
    module UnixSockets
      LONGEST = 107

      # @param path [String]
      # @return [UNIXServer]
      # @raise [SystemCallError]
      def self.listen(path) = within(path) { |short| UNIXServer.new(short) }

      # @return [UNIXSocket]
      # @raise [SystemCallError]
      def self.connect(path) = within(path) { |short| UNIXSocket.new(short) }

      def self.within(path)
        return yield path if path.bytesize <= LONGEST

        Dir.open(File.dirname(path)) { |folder| yield "/proc/self/fd/#{folder.fileno}/#{File.basename(path)}" }
      end
      private_class_method :within
    end
  end
end
