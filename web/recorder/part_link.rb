# frozen_string_literal: true

require "socket"
require "json"

module Loomshuttle
  module Web
    # The line to a part of the application: JSON-RPC over its Unix socket. Each call has its own connection and deadline, so a slow call never
    # delays another; a part that hangs is not called at all. RecorderLink and PlayerLink say which part, and how long its answers may take.
    # Its thread:
    #   hears the recorder   receives meters and state, notices when they stop, and reconnects
    class PartLink
      # Seconds that an answer may take, unless the part says otherwise (`later`).
      SOON = 3
      # Its status comes every second; without any word for so long it hangs (seconds).
      SILENCE = 2.5
      AGAIN = 0.25
      # Calls at once; there are more threads than that, so that pages are served whatever the recorder does.
      CALLS = 6

      # @param path [String] of the socket
      # @param on_up [Proc] called when the part has appeared or reappeared, or notifications were missed
      # @param on_state [Proc] called with the status after a change, or nil when the part has gone
      # @param told [Hash{String=>Proc}] handlers of other notifications, by name
      def initialize(path, on_up:, on_state:, told:)
        @path = path
        @tell = { **told, "state" => on_state, "missed" => ->(_) { on_up.call } }
        @on_up, @on_state = on_up, on_state
        @up = false
        @calls = 0
        @lock = Mutex.new # held for moments
      end

      # @return [Boolean] whether the desk is there, and was heard of just now
      def up? = @up && !silent?

      def start
        @worker = Runtime::Worker.start("hears the #{name}") { |worker| listen(worker) }
      end

      def stop = @worker&.stop

      # @param within [Numeric, nil] time limit in seconds; nil for the usual one
      # @return [Object] the result
      # @raise [Away] @raise [Invalid] if the part refuses
      def call(method, within: nil, **params)
        raise Away.new("The #{name} does not answer; nothing was heard of it for #{(Runtime::Clock.now - @heard).round} s.", where: name) if @up && silent?

        counted { ask(method, params, within || later.fetch(method, SOON)) }
      end

      private

      def silent? = Runtime::Clock.now - @heard > SILENCE

      def counted
        @lock.synchronize do
          raise Away.new("The #{name} has #{CALLS} requests to answer already.", where: name) if @calls >= CALLS

          @calls += 1
        end
        begin
          yield
        ensure
          @lock.synchronize { @calls -= 1 }
        end
      end

      def ask(method, params, seconds)
        line = connect
        line.puts(JSON.generate({ jsonrpc: "2.0", id: 1, method: method, params: params }), seconds)
        answer = line.gets(seconds) or raise Away.new("The #{name} ended while it was asked.", where: name)
        result(JSON.parse(answer))
      rescue SystemCallError, IOError
        raise Away.new("The #{name} does not answer.", where: name)
      rescue Runtime::LineSocket::Late
        raise Away.new("The #{name} did not answer within #{seconds} s.", where: name)
      rescue JSON::ParserError
        raise Away.new("The #{name}'s answer cannot be read.", where: name)
      ensure
        line&.close
      end

      def connect = Runtime::LineSocket.new(Runtime::UnixSockets.connect(@path), most: 64 << 20)

      def result(answer)
        return answer["result"] unless answer["error"]

        error = answer["error"]
        raise Problem.of(error.dig("data", "kind"), error["message"], where: error.dig("data", "where") || name)
      end

      def listen(worker)
        line = connect
        line.puts(JSON.generate({ jsonrpc: "2.0", id: 0, method: "meters", params: { subscribe: true } }), SOON)
        line.gets(SOON) or return
        @heard = Runtime::Clock.now
        @up = true
        @on_up.call
        hear(line, worker)
      rescue SystemCallError, IOError, Away, Runtime::LineSocket::Late
        nil
      ensure
        line&.close
        lost(worker)
      end

      # What one message does to us hinders no other.
      def hear(line, worker)
        until worker.stopped?
          text = next_line(line) or next
          return if text == :gone

          hand_on(text)
        end
      end

      def hand_on(text)
        message = JSON.parse(text)
        @tell[message["method"]]&.call(message["params"])
      rescue Away
        nil # it is asked again when it answers
      rescue StandardError => e
        Runtime::Health.trouble(e, "taking in what the #{name} tells")
      end

      # @return [String, Symbol, nil] nil when nothing has come yet
      def next_line(line)
        text = line.gets(0.5)
        back if @hangs
        @heard = Runtime::Clock.now
        text || :gone
      rescue Runtime::LineSocket::Late
        hangs if silent? && !@hangs
        nil
      end

      # The line is still there: it may go on.
      def hangs
        @hangs = true
        @on_state.call(nil)
      end

      def back
        @hangs = false
        @heard = Runtime::Clock.now
        @on_up.call
      rescue Away
        nil
      end

      def lost(worker)
        was_up, @up, @hangs = @up, false, false
        @on_state.call(nil) if was_up && !worker.stopped?
        worker.rest(AGAIN)
      end
    end
  end
end
