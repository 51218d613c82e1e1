# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # What leaves as a file: input list, patch sheet, who hears what, the whole show.
      module Papers
        def self.registered(app)
          app.get("/api/papers/show.json") { paper("json", JSON.pretty_generate(@control.library.show_file)) }
          app.get("/api/papers/inputs.csv") { paper("csv", Formats::InputList.write(@control.current.show), "text/csv; charset=utf-8; header=present") }
          app.get("/api/papers/sheet.pdf") { paper("pdf", PatchSheet.render(@control.current.show)) }
          app.get("/api/papers/hears.csv") { paper("csv", HearingSheet.csv(PresentHearing.new(@control.who_hears.now).rows), "text/csv; charset=utf-8; header=present") }
          app.get("/api/papers/hears.pdf") { paper("pdf", HearingSheet.pdf(@control.who_hears.now)) }
          app.get("/api/papers/order.pdf") { paper("pdf", OrderSheet.render(playback, @control.latest.show)) }
          app.helpers(Paper)
        end

        # An answer that the browser saves.
        module Paper
          def playback = PresentPlayback.new(@control.latest, @control.songs, @control.order, @control.who_hears).to_h

          # The file is called after the show.
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
