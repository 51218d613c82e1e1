# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # What is made for a band to play to: clicks, and the computer's songs.
      module SongRoutes
        def self.registered(app)
          app.helpers(Helpers)
          app.get("/api/click") do
            map = Timing::TempoMap.plain(params["bpm"], params["meter"], rate: (params["rate"] || 48_000).to_i)
            click, bars = click_of(map), params["bars"].to_i
            next midi(map, click, bars) if params["form"] == "mid"

            flow(ClickFlow.new(map, click, bars: bars, sound: params["sound"] || "wood"), "content-type" => "audio/wav", "cache-control" => "no-store")
          end
          register_songs(app)
          register_intake(app)
        end

        def self.register_songs(app)
          app.get("/api/songs") { json(@control.songs.all.map { |entry| PresentSongs.entry(entry) }) }
          app.get("/api/songs/:id") { json(PresentSongs.song(song(tempo: (params["tempo"] || 100).to_i, key: params["key"].to_i))) }
          app.post("/api/songs/:id/undo") { json(PresentSongs.song(@control.songs.undo(params["id"], body_json["version"]))) }
          app.delete("/api/songs/:id") { json({ done: @control.delete_song(params["id"]) }) }
          register_changes(app)
          register_sound(app)
        end

        def self.register_changes(app)
          app.post("/api/songs/accents") { json({ done: @control.songs.keep_accents(body_json["accents"]) && true }) }
          app.post("/api/songs/:id/changes") { json(PresentSongs.song(@control.change_song(params["id"], body_json["version"], body_json["changes"]))) }
          app.post("/api/songs/:id/sections") do
            sections = SongSections.at(song, body_json["sample"], snap: body_json["snap"], key: body_json["section"])
            json(PresentSongs.song(@control.change_song(params["id"], body_json["version"], { "sections" => sections })))
          end
        end

        def self.register_sound(app)
          app.post("/api/songs/:id/render") do
            entry = song
            json(JobRoutes.told(@control.jobs.render(entry.folder, entry.song.name, @control.order.to_render(@control.current.show, entry.id), who: who)))
          end
          app.post("/api/songs/:id/vary") do
            entry = song(tempo: body_json["tempo"], key: body_json["key"])
            json(JobRoutes.told(@control.jobs.vary(entry.folder, entry.song.name, body_json["tempo"], body_json["key"], who: who)))
          end
          register_picture(app)
        end

        def self.register_picture(app)
          app.get("/api/songs/:id/waveform") do
            entry = song
            picture = Waveform.new(SongLibrary.like_a_take(entry.data, entry.folder))
            json({ columns: picture.columns(params["points"].to_i, from: params["from"].to_i, to: (params["to"] || entry.data["frames"]).to_i, track: params["stem"].to_i) })
          end
        end

        def self.register_intake(app)
          app.get("/api/song-looks/:id") do
            look = @control.inspections.find(params["id"])
            json({ state: look.state, seen: look.seen, error: look.error, plan: look.state == "done" ? SongIntake.new(@control).plan(look) : nil })
          end
          app.post("/api/songs/bring-in") do
            body = body_json
            look = @control.inspections.find(body["look"])
            json(JobRoutes.told(SongIntake.new(@control).bring_in(look, name: body["name"], choices: body["stems"], bpm: body["bpm"], who: who)))
          end
        end
        private_class_method :register_songs, :register_changes, :register_sound, :register_picture, :register_intake

        # A song, or a click, as it was asked for.
        module Helpers
          def song(tempo: 100, key: 0) = @control.songs.fetch(params["id"]).varied(tempo, key)

          def click_of(map)
            accents = params["accents"].to_s.split(",").map { |beat| Integer(beat, 10, exception: false) }
            raise Invalid.new("Accents are beats, such as 1,4,6.", where: "accents") if accents.include?(nil)

            Timing::Click.new(map, subdivision: params["subdivision"] || "beats", accents: accents.empty? ? {} : { params["meter"] => accents })
          end

          def midi(map, click, bars)
            content_type("audio/midi")
            slowly { Formats::ClickMidi.of(map, click, bars) }
          end
        end
      end
    end
  end
end
