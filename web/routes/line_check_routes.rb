# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # The roll call, what people tick off, and the sockets for a hand on stage.
      module LineCheckRoutes
        def self.registered(app)
          app.get("/api/line-check") { json(PresentLineCheck.new(@control).roll) }
          app.post("/api/line-check/forget") { json({ done: @control.listener.forget(body_json["channel"]) && true }) }
          app.get("/api/stage") { json(PresentLineCheck.new(@control).stage) }
          register_ticks(app)
        end

        def self.register_ticks(app)
          app.post("/api/ticks") do
            @control.ticks.set(@control.seen.id, body_json["kind"], body_json["subject"], body_json["on"], who: who)
            @control.listener.check(body_json["subject"].to_i, body_json["on"], @control.seen.show.setup.alignment) if body_json["kind"] == "heard"
            @control.hub.tell("ticks", {})
            json({ done: true })
          end
          app.post("/api/ticks/clear") do
            @control.ticks.clear(@control.seen.id, body_json["kind"])
            @control.listener.uncheck if body_json["kind"] == "heard"
            @control.hub.tell("ticks", {})
            json({ done: true })
          end
        end
        private_class_method :register_ticks
      end
    end
  end
end
