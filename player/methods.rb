# frozen_string_literal: true

module Loomshuttle
  module Player
    # The player's methods on its Unix socket.
    module Methods
      class << self
        # @param unit [Unit]   @param caller [Runtime::Caller]
        # @return [Hash{String=>Proc}]
        def for(unit, caller)
          { "status" => -> { unit.status }, "health" => -> { { "threads" => Runtime::Health.threads, "troubles" => Runtime::Health.troubles } },
            "meters" => ->(subscribe:) { { "subscribed" => caller.subscribe(subscribe) } },
            "configure" => lambda do |items: nil, roles: nil, pilot: nil, buffer: nil, fps: nil, returns: nil, **|
              unit.configure(**{ items: items, roles: roles, pilot: pilot, buffer: buffer, fps: fps, returns: returns }.compact)
            end,
            "follow" => ->(to:) { unit.configure(follow: to) },
            "foot" => ->(foot:) { unit.configure(foot: foot) }, "go" => -> { unit.go },
            "sound.devices" => -> { Runtime::SoundDevices.list("aplay").map { |one| one.except("name") } }, "sound" => ->(id:) { unit.play_by(id) },
            "load" => ->(item:) { unit.load(item: item) }, "renew" => -> { unit.configure }, **commands(unit) }
        end

        private

        def commands(unit)
          { "play" => ->(section: nil, sample: nil, at: nil) { unit.command("play", at: at, **{ section: section, sample: sample }.compact) },
            "stop" => ->(at: nil) { unit.command("stop", at: at) }, "panic" => -> { unit.command("panic") },
            "fade" => ->(seconds:, at: nil) { unit.command("fade", at: at, seconds: seconds) },
            "jump" => ->(section:, at_next: "bar", at: nil) { unit.command("jump", at: at, section: section, at_next: at_next) },
            "around" => ->(on: true, at: nil) { unit.command("around", at: at, on: on) },
            "stop.at" => ->(at_next: "section", at: nil) { unit.command("stop.at", at: at, at_next: at_next) },
            "take.back" => -> { unit.command("take.back") } }
        end
      end
    end
  end
end
