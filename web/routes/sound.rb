# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # Capture and playback, through the recorder.
      module Sound
        def self.registered(app)
          app.post("/api/capture") { json(@control.capture(name: body_json["name"].to_s, frames: body_json["frames"], back: body_json["back"] || 0)) }
          app.post("/api/capture/stop") { json(TakeRoutes.take_hash(@control.recorder.call("capture.stop"))) }
          app.post("/api/capture/guard") do
            body_json["open"] ? @control.guard.open : @control.guard.close
            @control.touch
            json({ done: true })
          end
          app.get("/api/sound-devices") { json(@control.recorder.call("devices")) }
          app.post("/api/sound-devices") { json(@control.recorder.call("device.choose", id: body_json["id"], rate: @control.seen.show.rate)) }
          register_during(app)
          register_over(app)
          register_playing(app)
        end

        # Calls during a capture.
        def self.register_during(app)
          app.post("/api/capture/rest") { json(@control.recorder.call("capture.rest", tracks: body_json["tracks"], resting: body_json["resting"])) }
          app.post("/api/capture/mark") { json(@control.recorder.call("capture.mark", **body_json.slice("name", "kind").transform_keys(&:to_sym))) }
        end

        def self.register_over(app)
          app.post("/api/capture/over") do
            body = body_json
            json(@control.recorder.call("capture.over", take: @control.shelf.find(body["take"])["id"], tracks: body["tracks"], name: body["name"].to_s, from: body["from"] || 0))
          end
          app.post("/api/capture/trip") { json(@control.recorder.call("trip.measure", output: body_json["output"], input: body_json["input"])) }
        end

        def self.register_playing(app)
          app.post("/api/take-playback") do
            body = body_json
            range = { from: body["from"] || 0, to: body["to"], loop: body["loop"] == true, by_name: body["by_name"] == true }
            json(@control.recorder.call("play", take: body["take"], **range))
          end
          app.post("/api/take-playback/stop") do
            @control.recorder.call("stop")
            json({ stopped: true })
          end
        end

        private_class_method :register_during, :register_over, :register_playing
      end
    end
  end
end
