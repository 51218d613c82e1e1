# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # Files delivered by others: sent, looked at, brought in.
      module DeliveryRoutes
        def self.registered(app)
          app.post("/api/deliveries") { json({ id: @control.deliveries.create }) }
          app.put("/api/deliveries/:id/files/:name") do
            @control.deliveries.add(params["id"], params["name"], request.body)
            json({ done: true })
          end
          app.post("/api/deliveries/look") { json({ look: @control.looks.begin(body_json, @control.current.show) }) }
          app.get("/api/deliveries/looks/:id") { json(DeliveryRoutes.look(@control.looks.find(params["id"]))) }
          app.post("/api/deliveries/bring-in") do
            body = body_json
            seen = @control.looks.find(body["look"])
            job = @control.deliveries.bring_in(seen.items, @control.current.show, name: body["name"], choices: body["items"], part: body["part"], who: who)
            json(JobRoutes.told(job))
          end
        end

        def self.look(look)
          told = { state: look.state, seen: look.seen, error: look.error }
          look.state == "done" ? told.merge(plan: told(look.items, look.problems, look.show)) : told.merge(plan: nil)
        end

        def self.told(items, problems, show)
          { items: items.map { |item| item_hash(item, show) }, problems: problems,
            tracks: Delivery::Matching.targets(show).map { |target| { number: target.number, title: show.title_of(show.tracks[target.number]) } } }
        end

        def self.item_hash(item, show)
          first = item.sounds.first
          { files: item.sounds.map(&:path), names: item.sounds.map { |sound| File.basename(sound.path) }, track: item.target, score: item.score.round(2),
            lanes: item.lanes, rate: first.rate, codec: first.codec, offset_s: (item.offset / show.rate.to_f).round(2), length_s: (item.frames / show.rate.to_f).round(2),
            notes: item.notes }
        end
      end
    end
  end
end
