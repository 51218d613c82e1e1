# frozen_string_literal: true

require "time"

module Loomshuttle
  module Web
    module Routes
      # Plan and desk: where they differ, both ways into step, and the way back.
      module DeskRoutes
        def self.registered(app)
          app.get("/api/desk") { json(DeskRoutes.state(@control.in_step.state)) }
          app.post("/api/desk/send") { json(@control.in_step.send_plan(paths: body_json["paths"], on_take: body_json["on_take"], who: who)) }
          app.post("/api/desk/read") { json(made(@control.in_step.read(paths: body_json["paths"], version: body_json["version"], who: who))) }
          register_copies(app)
          app.post("/api/desk/stand-in") { json({ done: @control.in_step.stand_in && true }) }
        end

        def self.register_copies(app)
          app.get("/api/desk/copies/:copy") { json(@control.in_step.restore_preview(params["copy"].to_i)) }
          app.post("/api/desk/copies/:copy/restore") { json(@control.in_step.restore(params["copy"].to_i, on_take: body_json["on_take"], who: who)) }
        end
        private_class_method :register_copies

        def self.state(state) = state.merge(copies: state[:copies].map { |copy| copy.merge(at: copy[:at].iso8601) })
      end
    end
  end
end
