# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # Exports: asked for, followed, ended, fetched.
      module JobRoutes
        FIELDS = %w[id kind number name form state done total error made_at who result place].freeze

        def self.registered(app)
          app.get("/api/exports") { json(@control.jobs.all.map { |job| JobRoutes.told(job) }) }
          app.post("/api/exports") { json(JobRoutes.told(export(@control.shelf.readable(body_json["take"])))) }
          app.get("/api/export-places") { json(@control.folders.disks) }
          app.post("/api/exports/:id/cancel") { json({ done: @control.jobs.cancel(params["id"]) && true }) }
          app.delete("/api/exports/:id") { json({ done: @control.jobs.delete(params["id"]) && true }) }
          app.get("/api/exports/:id/file") { fetch(@control.jobs.find(params["id"])) }
          app.helpers(Flowing)
          app.helpers(Fetching)
        end

        # Asking for an export, and fetching what came of it.
        module Fetching
          def export(take)
            raise Invalid.new("Take #{take['number']} is still being captured.", where: "take") if take["state"] == "capturing"

            wanted = %w[form tracks from to part sound].to_h { |field| [field.to_sym, body_json[field]] }
            place = body_json["folder"]&.then { |folder| @control.folders.writable(folder) }
            @control.jobs.export(take, place: place, sheet: PatchSheet.render(@control.current.show), who: who, **wanted)
          end

          # A ZIP for the browser to save.
          def fetch(job)
            raise Invalid.new("There is no file to fetch.", where: "export") unless job["form"] == "zip" && job["state"] == "done"

            name = Rack::Utils.escape_path("#{job['name']}.zip")
            flow(FileFlow.new(job["result"]), "content-type" => "application/zip", "content-disposition" => "attachment; filename*=UTF-8''#{name}")
          rescue SystemCallError
            raise Invalid.new("The file is not there any more.", where: "export")
          end
        end

        def self.told(job) = FIELDS.to_h { |field| [field, job[field]] }
      end
    end
  end
end
