# frozen_string_literal: true

require "forwardable"

module Loomshuttle
  module Recorder
    # The recorder's methods on its Unix socket (Runtime::CallServer).
    class ControlServer
      extend Forwardable

      # What a request does not name stays as it is; none (null) is a value.
      ABSENT = Object.new.freeze

      # @param path [String] of the socket
      # @param unit [Unit]   @param choice [Alsa::Choice, nil] of the sound card   @param jobs [String, nil] folder from which takes are adopted
      def initialize(path, unit, choice = nil, jobs: nil)
        @unit, @choice, @jobs = unit, choice, jobs
        @server = Runtime::CallServer.new(path, Requests::ALL) { |caller| methods_for(caller) }
      end

      def_delegators :@server, :start, :tell, :close

      private

      def methods_for(caller)
        unit = @unit
        { "status" => -> { unit.status }, "health" => -> { health }, **capture_methods(unit), **take_methods(unit), **device_methods(@choice),
          "play" => ->(take:, from: 0, to: nil, loop: false, by_name: false) { unit.play(take: take, from: from, to: to, loop: loop, by_name: by_name) },
          "stop" => -> { unit.stop },
          "meters" => ->(subscribe:) { { "subscribed" => caller.subscribe(subscribe) } } }
      end

      def health = { "threads" => Runtime::Health.threads, "troubles" => Runtime::Health.troubles }

      def capture_methods(unit)
        { "configure" => lambda do |tracks:, buffer: ABSENT, own_mix: ABSENT, bits: ABSENT, mirror: ABSENT, project: ABSENT|
          unit.configure(tracks: tracks, **given(buffer: buffer, own_mix: own_mix, bits: bits, mirror: mirror, project: project))
        end,
          "arm" => ->(armed:, tracks: nil) { unit.arm(armed: armed, numbers: tracks) },
          "capture.start" => ->(name: "", frames: nil, back: 0) { unit.capture_start(name: name, frames: frames, back: back) },
          "capture.over" => ->(take:, tracks:, name: "", from: 0) { unit.overdub(take: take, tracks: tracks, name: name, from: from) },
          "trip.measure" => ->(output:, input:) { unit.measure_trip(output: output, input: input) },
          "ears.mix" => ->(ways:, from: nil) { unit.ear_mix(ways: ways, from: from) },
          "capture.stop" => -> { unit.capture_stop },
          "capture.rest" => ->(tracks:, resting:) { unit.rest(tracks: tracks, resting: resting) },
          "capture.mark" => ->(name: nil, kind: "point") { unit.mark(name: name, kind: kind) } }
      end

      def take_methods(unit)
        { "take.change" => lambda do |take:, name: ABSENT, notes: ABSENT, colour: ABSENT, markers: ABSENT, tracks: ABSENT|
          unit.change_take(take: take, **given(name: name, notes: notes, colour: colour, markers: markers, tracks: tracks))
        end,
          "take.adopt" => ->(folder:) { unit.shelf.adopt(folder: made(folder)) },
          "take.discard" => ->(take:) { unit.shelf.discard(take: take) },
          "bin" => -> { unit.shelf.bin },
          "bin.restore" => ->(number:) { unit.shelf.restore(number: number) },
          "bin.empty" => -> { unit.shelf.empty_bin } }
      end

      def device_methods(choice)
        { "devices" => -> { Runtime::SoundDevices.list.map { |one| one.except("name") } }, "device.choose" => ->(id:, rate: nil) { choice.choose(id, rate) } }
      end

      # What the porter has made, and nothing else of this computer.
      def made(folder)
        return folder if @jobs && File.exist?(folder) && File.realpath(folder).start_with?("#{File.realpath(@jobs)}/")

        raise Invalid.new("#{folder} is none of the porter's.", where: "folder")
      end

      def given(**values) = values.reject { |_, value| value.equal?(ABSENT) }
    end
  end
end
