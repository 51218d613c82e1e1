# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    # Server-sent events to all viewers of this process. Sockets are hijacked, so a viewer costs no Puma thread. One thread writes to all of
    # them and encodes each message once. Frequent messages, such as levels, are collected and written together, because every write to every
    # viewer costs time. A viewer that does not keep up is disconnected; browsers reconnect and read everything again. Its threads:
    #   tells viewers
    #   beats          a comment now and then finds viewers that have gone without a word
    class LiveHub
      # A viewer may fall behind this many bytes.
      BACKLOG = 256 * 1024
      HEARTBEAT = 5
      # Frequent messages wait this long for others (seconds), or until an urgent one is written.
      COMPANY = 0.05
      # Viewers at once, and messages that may wait to be told.
      MOST, WAITING = 1000, 400

      # text   one or more events, as sent     often   whether it may wait
      Letter = Struct.new(:text, :often)
      private_constant :Letter

      def initialize
        @waiting, @due = +"", nil
        @queue = Runtime::Mailbox.new(most: WAITING)
        @viewers = {}
        @lock = Mutex.new # held while viewers are written to, which never waits
        @latest = {}
      end

      # @param socket [IO] after its HTTP header; receives the newest message of each kept kind at once
      def add(socket)
        return close(socket) if @viewers.size >= MOST

        @lock.synchronize { @viewers[socket] = @latest.values.join.b }
        @queue << Letter.new("")
      end

      # @param kind [String] event name
      # @param data [Object] JSON value
      # @param keep [Boolean] whether new viewers get it too
      def tell(kind, data, keep: false)
        text = event(kind, data)
        @lock.synchronize { @latest[kind] = text } if keep
        @queue << Letter.new(text) unless @viewers.empty?
      end

      # Like tell, for messages sent many times a second.
      def tell_often(kind, data)
        @queue << Letter.new(event(kind, data), true) unless @viewers.empty?
      end

      # @return [Integer] number of viewers
      def size = @viewers.size

      def start
        @workers = [Runtime::Worker.start("tells viewers") { broadcast },
                    Runtime::Worker.start("beats") do |worker|
                      worker.rest(HEARTBEAT)
                      @queue << Letter.new(": here\n\n")
                    end]
      end

      # Closes all viewers' connections, which Puma no longer manages.
      def stop
        @workers&.each(&:stop)
        @lock.synchronize { @viewers.each_key { |socket| close(socket) }.clear }
      end

      private

      def event(kind, data) = "event: #{kind}\ndata: #{JSON.generate(data)}\n\n"

      # Takes everything that has come, and writes it when it is due.
      def broadcast
        first = @queue.pop(@due ? [@due - Runtime::Clock.now, 0].max : 1)
        [first, *Array.new(@queue.size) { @queue.pop(0) }].compact.each { |letter| take(letter) }
        write if @due && @due <= Runtime::Clock.now
      end

      def take(letter)
        @waiting << letter.text
        by = Runtime::Clock.now + (letter.often ? COMPANY : 0)
        @due = [@due || by, by].min
      end

      def write
        text, @waiting, @due = @waiting, +"", nil
        missed = @queue.missed
        # Who was not told everything reads it again.
        text = "event: missed\ndata: {\"count\":#{missed}}\n\n#{text}" if missed.positive?
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
