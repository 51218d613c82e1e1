# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    module Routes
      # What leaves as a file: input list, patch sheet, who hears what, the whole show.
      module Papers
        def self.registered(app)
          app.get("/api/papers/show.json") { paper("json", as_it_is { JSON.pretty_generate(@control.library.show_file) }) }
          app.get("/api/papers/inputs.csv") { paper("csv", as_it_is { Formats::InputList.write(@control.current.show) }, "text/csv; charset=utf-8; header=present") }
          app.get("/api/papers/sheet.pdf") { paper("pdf", as_it_is { PatchSheet.render(@control.current.show) }) }
          app.get("/api/papers/hears.csv") { paper("csv", as_heard { |heard| HearingSheet.csv(PresentHearing.new(heard).rows) }, "text/csv; charset=utf-8; header=present") }
          app.get("/api/papers/hears.pdf") { paper("pdf", as_heard { |heard| HearingSheet.pdf(heard) }) }
          app.get("/api/papers/order.pdf") { paper("pdf", slowly(JSON.generate(playback)) { OrderSheet.render(playback, @control.latest.show) }) }
          app.helpers(Paper)
        end

        # An answer that the browser saves.
        module Paper
          # Answers that depend on the newest version of the plan only.
          def as_it_is(&) = slowly(@control.current.id, @control.current.version, @control.current.show.about.to_s, &)

          # Answers that also depend on the desk's present levels.
          def as_heard
            heard = @control.who_hears.now
            slowly(heard.version, heard.from.to_s, heard.survey.values.hash) { yield heard }
          end

          def playback = PresentPlayback.new(@control.latest, @control.songs, @control.order, @control.who_hears).to_h

          # A file for download, named after the show.
          def paper(kind, bytes, type = nil)
            name = Formats::FileNames.safe(@control.seen.show.about[:name].to_s)
            content_type(type || kind)
            headers("content-disposition" => "attachment; filename*=UTF-8''#{Rack::Utils.escape_path(name)}.#{kind}")
            bytes
          end
        end
      end
    end
  end
end
