# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # The plan: the show, its rig, strands and findings, edits and steps.
      module Plan
        def self.registered(app)
          app.get("/api/show") { json(shown(@control.latest)) }
          app.get("/api/rig") { json(PresentRig.new(@control.current).to_h) }
          app.get("/api/strands") { json(present.strands) }
          app.get("/api/strands/:id/trace") { json(present.strand_trace(params["id"])) }
          app.get("/api/trace") { json(present.point_trace(params["point"])) }
          app.get("/api/findings") { json(present.findings) }
          app.get("/api/choices") { json(Views::Choices.for(@control.current.show, params["column"], params["number"].to_i).map(&:to_h)) }
          register_edits(app)
          app.helpers(Edits)
        end

        def self.register_edits(app)
          app.post("/api/edits") do
            label, settings = body_json.values_at("label", "settings")
            json(made(@control.edit(**against) { |show| Plan.edit(show, label, settings) }))
          end
          app.post("/api/steps") { json(made(@steps.take(body_json["kind"], body_json.fetch("options", {}), **against))) }
          app.post("/api/steps/preview") { json(@steps.preview(body_json["kind"], body_json.fetch("options", {}))) }
          # Whatever else has changed, and with the desk's answer: the way back must never be refused.
          app.post("/api/flip") { json(@control.flip(to: body_json["to"], channels: body_json["channels"], tracks: tracks_of_take, **against.except(:wait))) }
          %w[undo redo].each { |kind| app.post("/api/#{kind}") { json(made(@control.revert(**against, kind: kind))) } }
        end
        private_class_method :register_edits

        # One setting of a pair's side is set of the other as well; several settings are what a preview has shown, and are taken as they are. A
        # personal mix gets its tap with its source.
        # @return [Settings::Edit]
        def self.edit(show, label, settings)
          whole = settings.size == 1 ? Steps::BothSides.settings(show, settings) : settings
          whole = Steps::PersonalTaps.settings(show, whole)
          Settings::Edit.set(label || Settings::Telling.label(show, settings), whole)
        end

        # What all edits have in common.
        module Edits
          WHOLE = /\breturn\s*=\s*"?representation\b/i

          # The show with the latest findings about levels, without waiting for newer ones. A screen that names a kept edition gets only the changes.
          def shown(derived)
            drawn, since = @control.editions.drawn(derived, Present.new(derived, heard: @control.who_hears.found).findings), params["since"]
            changes = since && @control.editions.since(since, drawn)
            return { **drawn.to_h, **undoable } unless changes

            cache_control :no_store # nobody requests the same changes twice
            { id: drawn.id, version: drawn.version, edition: drawn.edition, since: since, changes: changes, **undoable }
          end

          # Undo is impossible while the database is away.
          def undoable
            @control.undoable(person)
          rescue Sequel::DatabaseError, Sequel::PoolTimeout
            { undo: nil, redo: nil }
          end

          def present = Present.new(@control.current, heard: @control.who_hears.findings)

          # What an edit did, with the new show or the changes to it if the request prefers that (RFC 7240, section 4.2). The edit is saved by now,
          # whatever happens next.
          def made(done)
            return done unless WHOLE.match?(request.get_header("HTTP_PREFER").to_s)

            show = shown(@control.seen)
            response["Preference-Applied"] = "return=representation"
            done.merge(show: show)
          rescue StandardError => e
            Runtime::Log.surprise(e, "showing what an edit made")
            done
          end

          # @return [Array<Integer>, nil] numbers of the tracks of the take that the request names
          def tracks_of_take = body_json["take"]&.then { |take| @control.shelf.find(take)["tracks"].map { |track| track["number"] } }

          # The version and show that the request refers to, the person, and whether to wait for the desk.
          def against = { version: body_json["version"], show: body_json["show"], who: who, person: person, wait: body_json["wait"] == true }
        end
      end
    end
  end
end
