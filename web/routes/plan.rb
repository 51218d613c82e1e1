# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # The plan: the show, its strands and findings, edits and the journal.
      module Plan
        def self.entry_hash(entry)
          entry.slice(:id, :version, :kind, :label, :who, :changes).merge(at: entry[:at].iso8601)
        end

        def self.registered(app)
          app.get("/api/show") { json(Present.new(@control.current).show(@control.undoable)) }
          app.get("/api/strands") { json(Present.new(@control.current).strands) }
          app.get("/api/strands/:id/trace") { json(Present.new(@control.current).trace(params["id"])) }
          app.get("/api/findings") { json(Present.new(@control.current).findings) }
          app.get("/api/journal") { json(@control.journal.map { |entry| Plan.entry_hash(entry) }) }
          app.get("/api/choices") do
            json(Patch::Choices.for(@control.current.show, params["column"], params["number"].to_i).map(&:to_h))
          end
          register_edits(app)
        end

        def self.register_edits(app)
          app.post("/api/edits") do
            body = body_json
            label = body["label"] || "Set #{body['settings'].keys.join(', ')}"
            json(@control.edit(version: body["version"], who: who) { Patch::Edit.set(label, body["settings"]) })
          end
          app.post("/api/run-straight") do
            body = body_json
            json(@control.edit(version: body["version"], who: who) do |show|
              Patch::RunStraight.edit(show, column: body["column"], first: body["first"], count: body["count"], start: body["start"])
            end)
          end
          app.post("/api/flip") do
            body = body_json
            json(@control.edit(version: body["version"], who: who) { |show| Patch::Flip.edit(show, to: body["to"], channels: body["channels"]) })
          end
          %w[undo redo].each do |kind|
            app.post("/api/#{kind}") { json(@control.revert(version: body_json["version"], who: who, kind: kind)) }
          end
        end
        private_class_method :register_edits
      end
    end
  end
end
