# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # What is made for a band to play to.
      module SongRoutes
        def self.registered(app)
          app.helpers(Clicks)
          app.get("/api/click") do
            map = Timing::TempoMap.plain(params["bpm"], params["meter"], rate: (params["rate"] || 48_000).to_i)
            click, bars = click_of(map), params["bars"].to_i
            next midi(map, click, bars) if params["form"] == "mid"

            flow(ClickFlow.new(map, click, bars: bars, sound: params["sound"] || "wood"), "content-type" => "audio/wav", "cache-control" => "no-store")
          end
        end

        # A click as it was asked for.
        module Clicks
          def click_of(map)
            accents = params["accents"].to_s.split(",").map { |beat| Integer(beat, 10, exception: false) }
            raise Invalid.new("Accents are beats, such as 1,4,6.", where: "accents") if accents.include?(nil)

            Timing::Click.new(map, subdivision: params["subdivision"] || "beats", accents: accents.empty? ? {} : { params["meter"] => accents })
          end

          def midi(map, click, bars)
            content_type("audio/midi")
            Formats::ClickMidi.of(map, click, bars)
          end
        end
      end
    end
  end
end
