# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # Capture, takes and playback, through the recorder.
      module Sound
        def self.registered(app)
          app.post("/api/capture") { json(@control.capture(name: body_json["name"].to_s, frames: body_json["frames"])) }
          app.post("/api/capture/stop") { json(Sound.take_hash(@control.recorder.call("capture.stop"))) }
          app.get("/api/takes") { json(@control.shelf.all.map { |take| Sound.take_hash(take) }) }
          app.get("/api/takes/:take") { json(Sound.take_hash(@control.shelf.find(params["take"]))) }
          app.get("/api/takes/:take/overview") do
            take = @control.shelf.find(params["take"])
            json({ frames: take["frames"], peaks: @control.shelf.overview(take, (params["points"] || 600).to_i) })
          end
          register_playing(app)
        end

        def self.register_playing(app)
          app.post("/api/playback") do
            body = body_json
            range = { from: body["from"] || 0, to: body["to"], loop: body["loop"] == true }
            json(@control.recorder.call("play", take: body["take"], **range))
          end
          app.post("/api/playback/stop") do
            @control.recorder.call("stop")
            json({ stopped: true })
          end
        end

        private_class_method :register_playing

        # @param take [Hash] manifest with "folder"
        def self.take_hash(take)
          tracks = take["tracks"].map { |track| track.merge("path" => File.join(take["folder"], track["file"])) }
          take.slice("id", "number", "name", "state", "note", "rate", "bits", "frames", "started_at", "gaps", "folder").merge("tracks" => tracks)
        end
      end
    end
  end
end
