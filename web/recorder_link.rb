# frozen_string_literal: true

require "socket"
require "json"
require "io/wait"

module Loomshuttle
  module Web
    # The line to the recorder: JSON-RPC over its Unix socket. One thread listens for meters and state and comes back
    # when the recorder does; each call has a connection of its own, so that a slow one holds up no other.
    class RecorderLink
      # The recorder is not there.
      class Away < StandardError; end

      # @param path [String] of the socket
      # @param on_up [Proc] called when the recorder has come (back)
      # @param on_meters [Proc] takes position, peak, rms, capture and playback
      # @param on_second [Proc] takes hum and pairs (Recorder::Listening)
      # @param on_state [Proc] takes a status when something has changed, or nil when it has gone
      # @param on_status [Proc] takes a status now and then
      def initialize(path, on_up:, on_meters:, on_second:, on_state:, on_status:)
        @path, @on_up, @on_meters, @on_second, @on_state, @on_status = path, on_up, on_meters, on_second, on_state, on_status
        @up = false
      end

      def up? = @up

      def start
        @thread = Thread.new { listen until @stopped }
      end

      def stop
        @stopped = true
        @thread&.join(1) || @thread&.kill
      end

      # @return [Object] the result
      # @raise [Away] @raise [Invalid] when the recorder refuses
      def call(method, **params)
        socket = UNIXSocket.new(@path)
        socket.write("#{JSON.generate({ jsonrpc: '2.0', id: 1, method: method, params: params })}\n")
        line = socket.gets or raise Away, "The recorder ended while it was asked."
        result(JSON.parse(line))
      rescue SystemCallError
        raise Away, "The recorder does not answer."
      ensure
        socket&.close
      end

      private

      def result(answer)
        return answer["result"] unless answer["error"]

        error = answer["error"]
        raise Invalid.new(error["message"], where: error.dig("data", "where") || "recorder")
      end

      def listen
        socket = UNIXSocket.new(@path)
        socket.write("#{JSON.generate({ jsonrpc: '2.0', id: 0, method: 'meters', params: { subscribe: true } })}\n")
        socket.gets
        @up = true
        @on_up.call
        hear(socket)
      rescue SystemCallError, IOError, Away
        nil
      ensure
        socket&.close
        lost
      end

      def hear(socket)
        until @stopped
          next unless socket.wait_readable(0.2)

          line = socket.gets or break
          message = JSON.parse(line)
          params = message["params"]
          case message["method"]
          when "meters" then @on_meters.call(params)
          when "second" then @on_second.call(params)
          when "status" then @on_status.call(params)
          when "state" then @on_state.call(params)
          end
        end
      end

      def lost
        was_up, @up = @up, false
        @on_state.call(nil) if was_up && !@stopped
        sleep(0.25) unless @stopped
      end
    end
  end
end
