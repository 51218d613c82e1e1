# frozen_string_literal: true

module Loomshuttle
  module Web
    # Server-sent events to all viewers of this process. Sockets are hijacked, so a viewer costs no Puma thread; one
    # broadcaster thread writes to all of them, encodes each message once, and drops who does not keep up.
    class LiveHub
      # A viewer may fall behind this many bytes.
      BACKLOG = 256 * 1024
      # A comment now and then finds viewers that have gone without a word.
      HEARTBEAT = 5

      def initialize
        @queue = Queue.new
        @viewers = {}
        @lock = Mutex.new
        @latest = {}
      end

      # @param socket [IO] already past its HTTP header; gets the newest of each kept kind at once
      def add(socket)
        @lock.synchronize { @viewers[socket] = @latest.values.join.b }
        @queue << ""
      end

      # @param kind [String] event name
      # @param data [Object] JSON value
      # @param keep [Boolean] whether a new viewer gets it, too
      def tell(kind, data, keep: false)
        text = "event: #{kind}\ndata: #{JSON.generate(data)}\n\n"
        @lock.synchronize { @latest[kind] = text } if keep
        @queue << text unless @viewers.empty?
      end

      # @return [Integer] viewers now
      def size = @viewers.size

      def start
        @thread = Thread.new { broadcast while @queue }
        @beat = Thread.new do
          loop do
            sleep(HEARTBEAT)
            @queue << ": here\n\n"
          end
        end
      end

      # Ends all viewers' connections, which Puma no longer knows of.
      def stop
        [@thread, @beat].each { |thread| thread&.kill }
        @lock.synchronize { @viewers.each_key { |socket| close(socket) }.clear }
      end

      private

      def broadcast
        text = @queue.pop
        @lock.synchronize { @viewers.delete_if { |socket, backlog| !push(socket, backlog, text) } }
      end

      # @return [Boolean] false when the viewer is to be dropped
      def push(socket, backlog, text)
        backlog << text.b
        until backlog.empty?
          written = socket.write_nonblock(backlog, exception: false)
          break if written == :wait_writable

          backlog.replace(backlog.byteslice(written..))
        end
        return true if backlog.bytesize <= BACKLOG

        close(socket)
      rescue SystemCallError, IOError
        close(socket)
      end

      def close(socket)
        socket.close
        false
      rescue SystemCallError, IOError
        false
      end
    end
  end
end
