# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # What is played tonight, and what somebody presses.
      module PlayerRoutes
        def self.registered(app)
          app.get("/api/player") { json(PresentPlayback.new(@control.latest, @control.songs, @control.order, @control.who_hears, pairs: here?).to_h) }
          app.post("/api/player") do
            body = body_json
            next problem(403, "Pairing is only possible on the recording computer. Open this page there.", "follow") if body["command"] == "follow" && !here?

            @control.order.command(body["command"], body.except("command"))
            json({ done: true })
          end
          app.get("/api/player/sound-devices") { json(@control.order.sound_devices) }
          app.post("/api/player/sound") { json({ done: @control.order.command("sound", { "id" => body_json["id"] }) && true }) }
          app.post("/api/player/foot") { json({ done: @control.order.command("foot", { "foot" => body_json }) && true }) }
          app.post("/api/player/cables") { json({ done: @control.plug_cables && true }) }
          register_library(app)
        end

        # Routes between the library and the show.
        def self.register_library(app)
          app.post("/api/player/add-song") do
            body = body_json
            entry = @control.songs.fetch(body["song"])
            json(@control.edit(version: body["version"], show: body["show"], who: who) do |show|
              Steps::AddSong.edit(show, song: entry.id, title: entry.song.name, roles: @control.songs.roles_of(entry.song), at: body["at"])
            end)
          end
          app.post("/api/player/library-roles") do
            show = @control.current.show
            @control.songs.keep_roles(show.roles.values.to_h { |role| [role.title, { "kind" => role.kind, "outputs" => role.outputs }] })
            json({ done: true })
          end
        end
        private_class_method :register_library
      end
    end
  end
end
