# frozen_string_literal: true

module Loomshuttle
  module CommandLine
    # Answers for people, in words and columns.
    module Answers
      class << self
        def status(data)
          state = data["state"]
          parts = data["health"].slice("database", "recorder", "player", "desk").map { |part, up| "#{part} #{up ? 'answers' : 'does not answer'}" }.join(", ")
          disk = state["disk"]["seconds"]
          [parts, "#{state['positions']['stage']} channels on stage, #{state['positions']['take']} on take",
           "desk #{apart(state['desk'])}", "#{state['findings']['blocks']} findings block, #{state['findings']['look']} need a look",
           disk ? "disk time left #{clock(disk)} for #{state['disk']['armed_lanes']} lanes" : "no track is armed",
           *foreign(state["recorder"]), *state["troubles"], *restless(data["health"])].join("\n")
        end

        def strands(list)
          rows = list.map { |one| %w[name socket channel send tap track return position].map { |key| (one[key] || "-").to_s } }
          table([%w[name socket channel send tap track return position], *rows])
        end

        def roll(lines)
          return "No channel has a socket yet." if lines.empty?

          rows = lines.map { |one| [one["channel"].to_s, one["name"], one["socket"], one["verdict"], one["reason"], [one["advice"], *one["also"]].compact.join("; ")] }
          table([%w[channel name socket verdict why advice], *rows])
        end

        def findings(list)
          return "No findings." if list.empty?

          list.map { |one| "#{one['severity']}: #{one['sentence']}#{" Fix: #{(one['fix'] || one['press'])['label']}." if one['fix'] || one['press']}" }.join("\n")
        end

        # @param kind ["source", "listener"]   @param name [String] as typed
        # @return [Array<Hash>] only its rows
        # @raise [Client::Failed] if there is none of that name
        def only(rows, kind, name)
          names = rows.map { |row| row[kind] }.uniq
          found = rows.select { |row| row[kind].casecmp?(name) }
          return found unless found.empty?

          raise Client::Failed, "There is no #{kind} \"#{name}\"#{"; there are #{names.join(', ')}" unless names.empty?}."
        end

        def hears(rows)
          return "No listeners yet. Suggest them on the Outputs page." if rows.empty?

          table([%w[source listener level delay ways wish], *rows.map do |row|
            [row["source"], row["listener"], heard(row["db"]), row["ms"] ? "#{format('%.2f', row['ms'])} ms" : "", row["ways"].to_s, row["wish"].to_s]
          end])
        end

        def wishes(list)
          return "No requirements yet." if list.empty?

          rows = list.map { |one| [one["wish"].to_s, one["source"], one["listener"], one["wants"], heard(one["db"]), one["state"]] }
          table([["wish", "source", "listener", "wants", "is", ""], *rows])
        end

        def songs(list)
          return "No songs yet. Import one with song add FOLDER." if list.empty?

          table([%w[song length tempo time loudness roles], *list.map do |one|
            [one["name"], length(one["seconds"]), one["bpm"], one["meter"], one["loudness"] ? "#{one['loudness']} LUFS" : "-", one["problem"] || one["roles"].join(", ")]
          end])
        end

        def order(items, data)
          return "The running order is empty." if items.empty?

          rows = items.map.with_index(1) do |one, nth|
            [nth.to_s, one["title"], length(one["seconds"]), one["bpm"], one["follows"], [one["played"] ? "played" : nil, one["problem"]].compact.join("; ")]
          end
          "#{table([['', 'what', 'length', 'tempo', 'goes on', ''], *rows])}\n#{length(data['seconds'])} in all."
        end

        def roles(list)
          return "No roles yet. Add a song to create them." if list.empty?

          table([["role", "is", "plays to", "comes out at", "heard by"], *list.map do |one|
            [one["name"], one["kind"], one["outputs"].empty? ? "none" : one["outputs"].join(","), one["goes"].map { |goes| goes["label"] }.join(", "),
             one["heard_by"].empty? ? "nobody" : one["heard_by"].map { |by| "#{by['name']} #{heard(by['db'])}" }.join(", ")]
          end])
        end

        def length(seconds) = format("%d:%02d", seconds.round / 60, seconds.round % 60)

        def outputs(rows)
          return "No output carries anything." if rows.empty?

          table([["output", "source", "tap", "delay", "", "socket"], *rows.map do |row|
            sockets = row["sockets"].empty? ? "nowhere" : row["sockets"].join(", ")
            [row["output"].to_s, row["source"], row["tap"].to_s, "#{format('%.2f', row['delay_ms'])} ms", row["polarity"] ? "turned" : "", sockets]
          end])
        end

        def takes(list)
          return "No takes yet; capture one with: bin/loomshuttle capture --seconds 10" if list.empty?

          table([%w[number name length tracks state], *list.map do |one|
            [one["number"], one["name"], clock(one["frames"] / one["rate"]), one["tracks"].size, one["state"]].map(&:to_s)
          end])
        end

        def take(one)
          head = "Take #{one['number']} #{one['name']}, #{one['state']}: #{format('%.1f', one['frames'] / one['rate'].to_f)} s in #{one['folder']}"
          rows = one["tracks"].map { |track| [track["number"].to_s, track["name"], level(track["peak_dbfs"]), level(track["rms_dbfs"])] }
          [head, table([["track", "name", "peak dBFS", "RMS dBFS"], *rows]), *missing(one), *one["note"]].join("\n")
        end

        # @return [Hash] what capture --json prints
        def capture_document(take)
          { "take" => take["number"], "frames" => take["frames"], "rate" => take["rate"], "gaps" => take["gaps"], "breaks" => take["breaks"],
            "files" => take["tracks"].map { |track| track.slice("name", "path", "frames", "peak_dbfs", "rms_dbfs").merge("track" => track["number"]) } }
        end

        private

        def foreign(recorder)
          "#{recorder['foreign']} packets from other senders ignored" if recorder["foreign"].to_i.positive?
        end

        # Threads that something has troubled.
        def restless(health)
          health["threads"].select { |thread| thread["troubles"].positive? || !thread["alive"] }.map do |thread|
            "#{thread['part']}, \"#{thread['name']}\": #{'has ended; ' unless thread['alive']}#{thread['troubles']} errors, last: #{thread['last_trouble']}"
          end
        end

        def apart(desk)
          return "does not answer" unless desk["up"]
          return "is not the planned one (#{desk['stranger']})" if desk["stranger"]

          desk["apart"].zero? ? "in step" : "#{desk['apart']} differences"
        end

        def missing(take)
          places = take["missing"]
          return take["breaks"].empty? ? "Nothing was lost." : nil if places.empty?

          "#{places.size} #{places.size == 1 ? 'gap' : 'gaps'}, #{places.sum { |one| one['frames'] }} samples in all."
        end

        def heard(value) = value ? "#{level(value)} dB" : "silent"
        def level(value) = format("%.1f", value).tr("-", "−")
        def clock(seconds) = format("%d:%02d:%02d", seconds / 3600, seconds / 60 % 60, seconds % 60)

        def table(rows)
          widths = rows.transpose.map { |column| column.map(&:length).max }
          rows.map { |row| row.zip(widths).map { |cell, width| cell.ljust(width) }.join("  ").rstrip }.join("\n")
        end
      end
    end
  end
end
