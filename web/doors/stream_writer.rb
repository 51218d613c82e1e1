# frozen_string_literal: true

module Loomshuttle
  module Web
    # Writes long answers, such as a take to listen to or an export. Puma hands the sockets over, and one thread serves all of them as fast as they
    # read, so a paused listener occupies no server thread. A client that reads nothing for a while is disconnected; browsers then request the rest.
    # Its thread:
    #   writes long answers
    class StreamWriter
      # At once; more are ended at their start.
      MOST = 32
      # Seconds without a byte read.
      IDLE = 60

      # One answer: gives its bytes part by part, nil at the end.
      Flow = Struct.new(:socket, :source, :left, :moved)

      def initialize(now: Runtime::Clock.method(:now))
        @now = now
        @flows = {}
        @lock = Mutex.new # held while flows are added or dropped, never while one is written
        @wake, @waker = IO.pipe
      end

      def start
        @worker = Runtime::Worker.start("writes long answers") { turn }
      end

      def stop
        @worker&.stop
        @lock.synchronize { @flows.values }.each { |flow| drop(flow) }
      end

      # @param socket [IO] already past its HTTP header   @param source [#next_part, #close]
      def add(socket, source)
        flow = Flow.new(socket, source, "".b, @now.call)
        return drop(flow) if @lock.synchronize { @flows.size >= MOST }

        @lock.synchronize { @flows[socket] = flow }
        @waker.write_nonblock(".", exception: false)
      end

      # @return [Integer] answers being written
      def size = @flows.size

      private

      def turn
        let_go
        sockets = @lock.synchronize { @flows.keys }
        woken, ready = IO.select([@wake], sockets, nil, 1)
        @wake.read_nonblock(1000, exception: false) if woken&.any?
        ready.to_a.each { |socket| @flows[socket]&.then { |flow| advance(flow) } }
      rescue IOError
        nil # one was closed just now; it is dropped at the next turn
      end

      # Who reads nothing, and whose socket somebody has closed: select would give up at that one again and again.
      def let_go
        @lock.synchronize { @flows.values }.each { |flow| drop(flow) if flow.socket.closed? || @now.call - flow.moved > IDLE }
      end

      # One part at a time, so that all get their turn.
      def advance(flow)
        flow.left = flow.source.next_part.to_s.b if flow.left.empty?
        return drop(flow) if flow.left.empty?

        written = flow.socket.write_nonblock(flow.left, exception: false)
        return if written == :wait_writable

        flow.left = flow.left.byteslice(written..)
        flow.moved = @now.call
      rescue SystemCallError, IOError
        drop(flow)
      rescue StandardError => e
        Runtime::Health.trouble(e, "writing a long answer")
        drop(flow)
      end

      def drop(flow)
        @lock.synchronize { @flows.delete(flow.socket) }
        flow.source.close
        flow.socket.close
      rescue SystemCallError, IOError
        nil
      end
    end
  end
end
