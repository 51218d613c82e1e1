# frozen_string_literal: true

require "fileutils"
require "io/wait"

module Loomshuttle
  module Runtime
    # Listens for JSON-RPC on a Unix socket, with a Caller for each connection. Its thread:
    #   control  accepts
    class CallServer
      # Callers at once; more are turned away.
      MOST = 64

      # @param path [String] of the socket
      # @param shapes [Hash] kind of each parameter (Rpc)
      # @yieldparam caller [Caller]
      # @yieldreturn [Hash{String=>Proc}] methods that can be called
      def initialize(path, shapes, &methods)
        @path, @shapes, @methods = path, shapes, methods
        @callers = []
        @lock = Mutex.new # held for moments only; never while something is written
        FileUtils.rm_f(path)
        @server = UnixSockets.listen(path)
        File.chmod(0o600, path)
      end

      # Starts the accepting thread.
      def start
        @worker = Worker.start("control") { serve(@server.accept) if @server.wait_readable(0.5) }
      end

      # Sends a notification to all subscribers without waiting.
      # @param method [String] name of a notification   @param params [Hash]
      def tell(method, params)
        told = @lock.synchronize { @callers.select(&:subscribed?) }
        return if told.empty?

        line = Rpc.notification(method, params)
        told.each { |caller| caller.tell(line) }
      end

      def close
        @worker&.stop
        @lock.synchronize { @callers.dup }.each(&:close)
        @server.close
        FileUtils.rm_f(@path)
      end

      private

      def serve(socket)
        return socket.close if @lock.synchronize { @callers.size >= MOST }

        caller = Caller.new(socket, on_end: method(:gone))
        @lock.synchronize { @callers << caller }
        caller.listen(Rpc.new(@methods.call(caller), @shapes))
      end

      def gone(caller) = @lock.synchronize { @callers.delete(caller) }
    end
  end
end
