# frozen_string_literal: true

require "fileutils"
require "thor"

module Loomshuttle
  module CommandLine
    # Songs of this computer: bin/loomshuttle song …
    class SongCommands < Thor
      include Asking

      def self.exit_on_failure? = true

      class_option :json, type: :boolean, default: false, desc: "print one JSON document"
      class_option :port, type: :numeric, default: Runtime::InstancePort.of(File.join(ROOT, "var")), desc: "port of the running application"

      desc "add FOLDER [--name N] [--bpm N]", "Import a folder of stems as a song, and wait for it"
      option :name, type: :string
      option :bpm, type: :numeric
      def add(folder)
        plan, look = plan_of(File.expand_path(folder))
        stems = plan["stems"].map { |stem| stem.slice("files", "role") }
        job = client.post("/api/songs/bring-in", { "look" => look, "name" => options[:name] || plan["name"], "stems" => stems, "bpm" => options[:bpm] }.compact)
        before = client.get("/api/songs").map { |song| song["id"] }
        finished(job)
        song = newest(before)
        show(song) { "#{song['name']}, #{Answers.length(song['seconds'])}, #{song['bpm']}, #{song['roles'].join(', ')}." }
      end

      desc "play NAME [--section S]", "Play a song of the running order to the stage"
      option :section, type: :string
      def play(name)
        item = in_order(name)
        section = options[:section] && section_of(item, options[:section])
        client.post("/api/player", "command" => "load", "item" => item["key"])
        client.post("/api/player", { "command" => "play", "section" => section }.compact)
        status = client.get("/api/player")["player"]
        show(status) { "Playing #{item['title']}#{" from #{options[:section]}" if section}." }
      end

      desc "stop [--fade SECONDS]", "Stop the song that plays to the stage"
      option :fade, type: :numeric
      def stop
        client.post("/api/player", options[:fade] ? { "command" => "fade", "seconds" => options[:fade] } : { "command" => "stop" })
        show({ "done" => true }) { options[:fade] ? "Fading out." : "Stopped." }
      end

      desc "vary NAME [--tempo PERCENT] [--key SEMITONES]", "Change tempo or key of a song for tonight; waits for the render"
      option :tempo, type: :numeric, default: 100
      option :key, type: :numeric, default: 0
      def vary(name)
        item = in_order(name)
        client.post("/api/edits", "settings" => { "setlist/#{item['key']}/tempo" => options[:tempo], "setlist/#{item['key']}/key" => options[:key] })
        finished(client.post("/api/songs/#{item['song']}/vary", "tempo" => options[:tempo], "key" => options[:key])) unless in_order(name)["made"]
        show({ "tempo" => options[:tempo], "key" => options[:key] }) { "#{item['title']} goes at #{options[:tempo]} %, #{format('%+d', options[:key])} semitones tonight." }
      end

      desc "render NAME --out DIR", "Write a song as files, one an output, as it would be played"
      option :out, type: :string, required: true
      def render(name)
        raise Client::Failed, "#{options[:out]} is there already." if File.exist?(options[:out])

        job = finished(client.post("/api/songs/#{song_of(name)['id']}/render"))
        FileUtils.mkdir_p(File.dirname(File.expand_path(options[:out])))
        FileUtils.cp_r(job["result"], options[:out])
        files = Dir.children(options[:out]).sort
        show({ "folder" => File.expand_path(options[:out]), "files" => files }) { "#{options[:out]}: #{files.join(', ')}" }
      end

      no_commands do # rubocop:disable Metrics/BlockLength
        def plan_of(folder)
          look = client.post("/api/deliveries/look", "folder" => folder)["look"]
          sleep(0.2) while (seen = client.get("/api/song-looks/#{look}"))["state"] == "looking"
          raise Client::Failed, seen["error"] if seen["error"]

          [seen["plan"], look]
        end

        def finished(job)
          sleep(0.3) while %w[waiting running].include?((job = client.get("/api/exports").find { |one| one["id"] == job["id"] } || job)["state"])
          raise Client::Failed, job["error"] || "It was cancelled." unless job["state"] == "done"

          job
        end

        # Waits for the library to adopt what the porter made.
        def newest(before)
          100.times do
            found = client.get("/api/songs").find { |song| !before.include?(song["id"]) }
            return found if found

            sleep(0.1)
          end
          raise Client::Failed, "The song was made and is not in the library yet; look at songs."
        end

        def song_of(name)
          client.get("/api/songs").find { |song| song["name"].casecmp?(name) } || raise(Client::Failed, "There is no song \"#{name}\" in this computer's library.")
        end

        def in_order(name)
          items = client.get("/api/player")["items"].select { |item| item["kind"] == "song" }
          items.find { |item| item["title"].casecmp?(name) } ||
            raise(Client::Failed, "The running order has no song \"#{name}\"#{"; it has #{items.map { |item| item['title'] }.join(', ')}" unless items.empty?}.")
        end

        def section_of(item, name)
          parts = client.get("/api/songs/#{item['song']}")["parts"]
          parts.find { |part| part["name"].casecmp?(name) }&.fetch("key") ||
            raise(Client::Failed, "#{item['title']} has no section \"#{name}\"; it has #{parts.map { |part| part['name'] }.join(', ')}.")
        end
      end
    end
  end
end
