# frozen_string_literal: true

require "fileutils"
require "socket"

module Loomshuttle
  module Recorder
    # Listens on the Unix socket. A thread accepts, a thread a connection reads requests and writes answers. Meters and
    # state are told to whoever asked for them. Writing never waits: one who does not read fast enough is dropped.
    class ControlServer
      # @param path [String] of the socket
      # @param unit [Unit]
      def initialize(path, unit)
        @path = path
        @unit = unit
        @subscribers = []
        @lock = Mutex.new
        FileUtils.rm_f(path)
        @server = UNIXServer.new(path)
        File.chmod(0o600, path)
      end

      # Starts the accepting thread.
      def start
        @thread = Thread.new { loop { serve(@server.accept) } }
        @thread.report_on_exception = false
      end

      # @param method [String] "meters" or "state"
      # @param params [Hash]
      def tell(method, params)
        return if @subscribers.empty?

        line = "#{Rpc.notification(method, params)}\n"
        @lock.synchronize { @subscribers.select! { |socket| push(socket, line) } }
      end

      def close
        @thread&.kill
        @server.close
        FileUtils.rm_f(@path)
      end

      private

      def serve(socket)
        Thread.new do
          rpc = Rpc.new(methods_for(socket))
          while (line = socket.gets)
            reply = rpc.answer(line)
            break unless reply.nil? || @lock.synchronize { push(socket, "#{reply}\n") }
          end
        rescue SystemCallError, IOError
          nil # the other side has gone
        ensure
          @lock.synchronize { @subscribers.delete(socket) }
          socket.close
        end
      end

      def methods_for(socket)
        unit = @unit
        { "status" => -> { unit.status },
          "configure" => ->(tracks:, buffer: nil) { unit.configure(**{ tracks: tracks, buffer: buffer }.compact) },
          "arm" => ->(armed:, tracks: nil) { unit.arm(armed: armed, numbers: tracks) },
          "capture.start" => ->(name: "", frames: nil) { unit.capture_start(name: name, frames: frames) },
          "capture.stop" => -> { unit.capture_stop },
          "play" => ->(take:, from: 0, to: nil, loop: false) { unit.play(take: take, from: from, to: to, loop: loop) },
          "stop" => -> { unit.stop },
          "meters" => ->(subscribe:) { subscribe(socket, subscribe) } }
      end

      def subscribe(socket, wanted)
        @lock.synchronize { wanted ? @subscribers |= [socket] : @subscribers.delete(socket) }
        { "subscribed" => wanted ? true : false }
      end

      def push(socket, line)
        socket.write_nonblock(line, exception: false) == line.bytesize
      rescue SystemCallError, IOError
        false
      end
    end
  end
end
