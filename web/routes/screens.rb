# frozen_string_literal: true

module Loomshuttle
  module Web
    module Routes
      # Health, contract, live feed, and the built interface.
      module Screens
        # A streaming body of Rack 3: Puma hands over the socket and forgets it.
        LIVE_HEADERS = { "content-type" => "text/event-stream", "cache-control" => "no-store", "x-accel-buffering" => "no" }.freeze
        KINDS = { ".html" => "text/html; charset=utf-8", ".js" => "text/javascript", ".css" => "text/css", ".woff2" => "font/woff2",
                  ".woff" => "font/woff", ".svg" => "image/svg+xml", ".png" => "image/png" }.freeze

        def self.registered(app)
          app.get("/api/health") { json(Health.new(@control).to_h) }
          app.get("/api/openapi.json") { send_file Contract::PATH, type: :json }
          app.get("/api/state") { json(@control.state) }
          app.get("/api/live") { throw :halt, [200, LIVE_HEADERS, ->(socket) { @control.hub.add(socket) }] }
          app.get("/assets/*") { serve_asset }
          app.get("/*") { request.path_info.start_with?("/api/") ? pass : serve_page }
          app.helpers Files
        end

        # The built files.
        module Files
          def serve_asset
            path = File.expand_path(request.path_info.delete_prefix("/"), App::UI)
            halt 404 unless path.start_with?("#{App::UI}/assets/") && File.file?(path)
            cache_control :public, :immutable, max_age: 31_536_000 # its name changes with what is in it
            send_file path, type: KINDS.fetch(File.extname(path), "application/octet-stream")
          end

          # Emotion adds style elements; the policy allows them only with the nonce of this answer.
          def serve_page
            page = File.join(App::UI, "index.html")
            halt 503, "The screens are not built; start with bin/demo." unless File.file?(page)
            content_type :html
            cache_control :no_store
            File.read(page).sub("__NONCE__", request.env["loomshuttle.nonce"])
          end
        end
      end
    end
  end
end
