# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # Somebody on the control socket: asks, is answered, and may be told meters and state. Telling never waits for him: what he has no time
    # for is let go, oldest first, and he is told that he missed something. Threads of each:
    #   reads    takes his requests, one after the other, and writes the answers whole
    #   tells    writes notifications, after the caller subscribed
    class Caller
      # What may wait for him: meters and state of three seconds.
      BACKLOG = 80
      # He has so long to take a line (seconds).
      PATIENCE = 10

      # @param socket [UNIXSocket]
      # @param on_end [Proc] called after the caller has gone
      def initialize(socket, on_end:)
        @line = LineSocket.new(socket)
        @on_end = on_end
        @outbox = Mailbox.new(most: BACKLOG)
      end

      # @param rpc [Rpc]
      def listen(rpc)
        @reader = Task.start("reads a caller") { read(rpc) }
      end

      # @return [Boolean] whether the caller wants notifications
      def subscribed? = @subscribed == true

      # @param wanted [Boolean]   @return [Boolean] the same
      def subscribe(wanted)
        @subscribed = wanted
        @teller ||= Task.start("tells a caller") { tell_all } if wanted
        wanted
      end

      # @param notification [String] a line; queued without waiting
      def tell(notification)
        @outbox << notification
      end

      # Closes the connection; can be called from any thread.
      def close
        @outbox.close
        @line.close
      end

      private

      def read(rpc)
        while (request = @line.gets)
          reply = rpc.answer(request)
          @line.puts(reply, PATIENCE) if reply
        end
      rescue LineSocket::Late => e
        Log.now.warn("A caller was given up: #{e.message}.")
      rescue SystemCallError, IOError
        nil # he has gone
      rescue StandardError => e
        Health.trouble(e, "reading a caller")
      ensure
        close
        @on_end.call(self)
      end

      def tell_all
        until @outbox.closed?
          line = @outbox.pop(5) or next
          missed = @outbox.missed
          @line.puts(Rpc.notification("missed", { "count" => missed }), PATIENCE) if missed.positive?
          @line.puts(line, PATIENCE) if @subscribed
        end
      rescue LineSocket::Late, SystemCallError, IOError
        nil # he has gone, or does not read
      rescue StandardError => e
        Health.trouble(e, "telling a caller")
      ensure
        close # so that the client notices, reconnects, and reads everything
      end
    end
  end
end
