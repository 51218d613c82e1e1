# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # Files delivered by others: sent, looked at, brought in.
      module DeliveryRoutes
        def self.registered(app)
          app.post("/api/deliveries") { json({ id: @control.deliveries.create(bytes: body_json["bytes"]) }) }
          app.delete("/api/deliveries/:id") { json({ done: @control.deliveries.give_up(params["id"]) && true }) }
          app.put("/api/deliveries/:id/files/:name") do
            @control.deliveries.add(params["id"], params["name"], request.body)
            json({ done: true })
          end
          looks(app)
          app.post("/api/deliveries/bring-in") do
            body, show = body_json, @control.current.show
            items = Arrangement.new(@control.inspections.find(body["look"]).sounds, show).items(body["items"])
            json(JobRoutes.told(@control.deliveries.bring_in(items, show, name: body["name"], part: body["part"], who: who)))
          end
        end

        def self.looks(app)
          app.post("/api/deliveries/look") { json({ look: @control.inspections.begin(body_json, @control.current.show) }) }
          app.get("/api/deliveries/looks/:id") { json(DeliveryRoutes.look(@control.inspections.find(params["id"]))) }
          app.post("/api/deliveries/looks/:id/arrange") do
            seen, show = @control.inspections.find(params["id"]), @control.current.show
            json(DeliveryRoutes.told(Arrangement.new(seen.sounds, show).items(body_json["items"]), seen.problems, show))
          end
        end

        def self.look(look)
          told = { state: look.state, seen: look.seen, error: look.error }
          look.state == "done" ? told.merge(plan: told(look.items, look.problems, look.show)) : told.merge(plan: nil)
        end

        def self.told(items, problems, show)
          { items: items.map { |item| item_hash(item, show) }, problems: problems, rate: show.rate,
            tracks: Delivery::Matching.targets(show).map { |target| { number: target.number, title: target.title } } }
        end

        def self.item_hash(item, show)
          first = item.recording.first
          { pieces: item.recording.pieces.map { |piece| piece.map { |source| source_hash(source) } }, title: item.title, key: item.recording.names.last.words.join(" "),
            track: item.target, score: item.score.round(2),
            lanes: item.lanes, rate: first.rate, codec: first.codec, offset: item.offset, length_s: (item.frames / show.rate.to_f).round(2), notes: item.notes,
            warnings: item.warnings }
        end

        def self.source_hash(source) = { file: source.sound.path, name: source.sound.file, lane: source.lane, lanes: source.lanes }
      end
    end
  end
end
