# frozen_string_literal: true

require "fileutils"
require "socket"

module Loomshuttle
  module Recorder
    # Listens on the Unix socket. A thread accepts, a thread a connection reads requests and writes answers. Meters and
    # state are told to whoever asked for them. Writing never waits: one who does not read fast enough is dropped.
    class ControlServer
      # What a request does not name stays as it is; none (null) is a value.
      ABSENT = Object.new.freeze

      # @param path [String] of the socket
      # @param unit [Unit]   @param choice [Alsa::Choice, nil] of the sound card
      def initialize(path, unit, choice = nil)
        @choice = choice
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

      # @param method [String] "meters", "second", "state" (something has changed) or "status" (how it goes on)
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
        { "status" => -> { unit.status }, **capture_methods(unit), **take_methods(unit), **device_methods(@choice),
          "play" => ->(take:, from: 0, to: nil, loop: false) { unit.play(take: take, from: from, to: to, loop: loop) },
          "stop" => -> { unit.stop },
          "meters" => ->(subscribe:) { subscribe(socket, subscribe) } }
      end

      def capture_methods(unit)
        { "configure" => lambda do |tracks:, buffer: ABSENT, own_mix: ABSENT, bits: ABSENT, mirror: ABSENT, project: ABSENT|
          unit.configure(tracks: tracks, **given(buffer: buffer, own_mix: own_mix, bits: bits, mirror: mirror, project: project))
        end,
          "arm" => ->(armed:, tracks: nil) { unit.arm(armed: armed, numbers: tracks) },
          "capture.start" => ->(name: "", frames: nil, back: 0) { unit.capture_start(name: name, frames: frames, back: back) },
          "capture.over" => ->(take:, tracks:, name: "", from: 0) { unit.overdub(take: take, tracks: tracks, name: name, from: from) },
          "trip.measure" => ->(output:, input:) { unit.measure_trip(output: output, input: input) },
          "capture.stop" => -> { unit.capture_stop },
          "capture.rest" => ->(tracks:, resting:) { unit.rest(tracks: tracks, resting: resting) },
          "capture.mark" => ->(name: nil, kind: "point") { unit.mark(name: name, kind: kind) } }
      end

      def take_methods(unit)
        { "take.change" => lambda do |take:, name: ABSENT, notes: ABSENT, colour: ABSENT, markers: ABSENT|
          unit.change_take(take: take, **given(name: name, notes: notes, colour: colour, markers: markers))
        end,
          "take.adopt" => ->(folder:) { unit.shelf.adopt(folder: folder) },
          "take.discard" => ->(take:) { unit.shelf.discard(take: take) },
          "bin" => -> { unit.shelf.bin },
          "bin.restore" => ->(number:) { unit.shelf.restore(number: number) },
          "bin.empty" => -> { unit.shelf.empty_bin } }
      end

      def device_methods(choice)
        { "devices" => -> { Alsa::Devices.list }, "device.choose" => ->(name:) { choice.choose(name) } }
      end

      def given(**values) = values.reject { |_, value| value.equal?(ABSENT) }

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
