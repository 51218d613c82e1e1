# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # Plan and desk: where they differ, and both ways into step.
      module DeskRoutes
        def self.registered(app)
          app.get("/api/desk/differences") { json((@control.differences || []).map(&:to_h)) }
          app.post("/api/desk/send") { json({ problems: @control.send_plan }) }
          app.post("/api/desk/read") { json(@control.read_desk(version: body_json["version"], who: who)) }
        end
      end
    end
  end
end
