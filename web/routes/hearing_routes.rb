# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    module Routes
      # Outputs, who hears what, and levels of the desk.
      module HearingRoutes
        def self.registered(app)
          app.get("/api/outputs") { json(PresentOutputs.new(@control.current).to_h) }
          app.get("/api/outputs/rows") { content_type(:json) && slowly(@control.current.id, @control.current.version) { JSON.generate(PresentOutputs.new(@control.current).rows) } }
          register_hearing(app)
          register_levels(app)
          app.helpers(Heard)
        end

        def self.register_hearing(app)
          app.get("/api/hearing") { json(PresentHearing.new(heard_by(params["sheet"])).to_h) }
          app.get("/api/hearing/way") { json(PresentHearing.new(heard_by(params["sheet"])).way(params["source"], params["listener"].to_i)) }
          app.get("/api/hearing/rows") { json(PresentHearing.new(heard_by(params["sheet"])).rows) }
          app.get("/api/hearing/now") { json(@control.live_ears.read(params["listener"].to_i, params["from"]&.to_i)) }
        end

        def self.register_levels(app)
          app.get("/api/level-sheets") { json(@control.levels.list.map { |sheet| LibraryRoutes.dated(sheet) }) }
          app.post("/api/level-sheets") { json({ id: @control.levels.keep(body_json["name"], who) }) }
          app.delete("/api/level-sheets/:sheet") { json({ done: @control.levels.delete(params["sheet"].to_i) && true }) }
          app.get("/api/levels/sends") { json(PresentHearing.new(@control.who_hears.now).sends(params["bus"].to_i)) }
          app.post("/api/levels/preview") { json(@control.levels.preview(body_json["values"])) }
          app.post("/api/levels") { json(@control.levels.press(body_json["values"])) }
        end
        private_class_method :register_hearing, :register_levels

        # Of the desk as it is mixed now, or by a level sheet.
        module Heard
          def heard_by(sheet) = sheet ? @control.who_hears.by_sheet(sheet.to_i) : @control.who_hears.now

          # The mix of a take's lanes for the requested listener; nil if none was requested.
          def ears_of(take)
            params["listener"] && Hearing::EarMix.of(heard_by(params["sheet"]).survey, params["listener"].to_i, take["tracks"].flat_map { |one| one["inputs"] })
          end
        end
      end
    end
  end
end
