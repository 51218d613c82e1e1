# frozen_string_literal: true

require "json"
require "time"

module Loomshuttle
  module Web
    module Routes
      # What was changed, by whom and when; and any two states compared.
      module Journal
        # Changes told in words, at most, in a list of entries; a single entry tells all.
        SOME = 3

        def self.registered(app)
          app.get("/api/journal") do
            entries = @control.shows.page(@control.seen.id, before: params["before"]&.to_i)
            json(entries.map { |entry| entry_hash(entry, entry[:changes].first(SOME)) })
          end
          app.get("/api/journal/:version") do
            entry = @control.shows.entry(@control.seen.id, params["version"].to_i)
            json(entry_hash(entry, entry[:changes]))
          end
          app.get("/api/compare") { content_type(:json) && slowly(@control.current.version, Runtime::Clock.now.floor) { JSON.generate(@comparison.of(params["one"], params["other"])) } }
          app.helpers(Entries)
        end

        # Journal entries as the API tells them.
        module Entries
          # @param told [Array<Settings::Change>] changes to put into words
          def entry_hash(entry, told)
            show = @control.seen.show
            entry.slice(:id, :version, :kind, :label, :who).merge(
              at: entry[:at].iso8601, count: entry[:changes].size, changes: told.map { |change| Settings::Telling.change(show, change.path, change.from, change.to).to_h }
            )
          end
        end
      end
    end
  end
end
