# frozen_string_literal: true

require "time"

module Loomshuttle
  module Web
    module Routes
      # Shows, device profiles and presets.
      module LibraryRoutes
        def self.registered(app)
          register_shows(app)
          app.get("/api/profiles") { json(@control.library.profiles) }
          app.post("/api/profiles") { json({ id: @control.library.keep_profile(body_json["profile"]) }) }
          app.delete("/api/profiles/:id") { json({ done: @control.library.delete_profile(params["id"]) && true }) }
          app.get("/api/presets") { json(@control.library.presets.list.map { |preset| LibraryRoutes.dated(preset) }) }
          app.post("/api/presets") { json({ id: @control.library.keep_preset(body_json["name"], body_json["parts"], who) }) }
          app.delete("/api/presets/:id") { json({ done: @control.library.presets.delete(params["id"].to_i) && true }) }
        end

        def self.register_shows(app)
          app.get("/api/shows") { json(@control.library.shows.map { |show| LibraryRoutes.dated(show, :created_at) }) }
          app.post("/api/shows") do
            body = body_json
            @control.settle_take(body["on_take"], "open another show", who) if body["open"] == true
            id = @control.library.create_show(about: body["about"]&.transform_keys(&:to_sym), desk: body["desk"], like: body["like"], file: body["file"])
            @control.open_show(id, on_take: "keep") if body["open"] == true # settled before anything was made
            json({ id: id })
          end
          app.post("/api/shows/:id/open") { json({ done: @control.open_show(params["id"].to_i, on_take: body_json["on_take"], who: who) && true }) }
          register_one_show(app)
        end

        def self.register_one_show(app)
          app.post("/api/shows/:id/about") do
            @control.shows.rename(params["id"].to_i, body_json["about"].transform_keys(&:to_sym))
            @control.forget
            json({ done: true })
          end
          app.delete("/api/shows/:id") { json({ done: @control.shows.delete(params["id"].to_i) && true }) }
        end
        private_class_method :register_shows, :register_one_show

        # @return [Hash] with its time as text (ISO 8601)
        def self.dated(row, key = :at) = row.merge(key => row[key].iso8601)
      end
    end
  end
end
