# frozen_string_literal: true

require "thor"

module Loomshuttle
  module CommandLine
    # bin/loomshuttle. Each command prints for people, or one JSON document with --json; errors go to standard error.
    class Commands < Thor
      include Asking

      class_option :json, type: :boolean, default: false, desc: "print one JSON document"
      class_option :port, type: :numeric, default: Runtime::InstancePort.of(File.join(ROOT, "var")), desc: "port of the running application"

      def self.exit_on_failure? = true

      # Runs a command line.
      # @return [Integer] exit code
      def self.main(arguments)
        start(arguments, debug: true)
        0
      rescue Client::Failed => e
        warn e.message
        ExitCodes.of(e.kind)
      rescue Thor::Error => e
        warn e.message
        ExitCodes::USAGE
      rescue SystemExit => e
        e.status
      end

      desc "status", "What runs, and how the show stands"
      def status
        show({ "health" => client.get("/api/health"), "state" => client.get("/api/state") }) { |data| Answers.status(data) }
      end

      desc "strands", "The way of each source from socket to channel and back"
      def strands
        list = client.get("/api/strands").map do |strand|
          strand.slice("name", "socket", "send", "tap", "track", "return", "position").merge("channel" => strand["channel"], "home" => strand["home"])
        end
        show(list) { Answers.strands(list) }
      end

      desc "checks", "Findings of the plan; exit code 1 if any blocks"
      def checks
        findings = client.get("/api/findings")
        show(findings) { Answers.findings(findings) }
        exit(1) if findings.any? { |finding| finding["severity"] == "blocks" }
      end

      desc "hears [--listener NAME] [--source NAME]", "Who hears what with the current mix; exit code 1 if a requirement is not met"
      option :listener, type: :string
      option :source, type: :string
      def hears
        rows = client.get("/api/hearing/rows")
        %w[listener source].each { |kind| rows = Answers.only(rows, kind, options[kind]) if options[kind] }
        show(rows) { Answers.hears(rows) }
        exit(1) if rows.any? { |row| row["wish"] == "broken" }
      end

      map "wishes" => :requirements, "roll" => :line_check # their former names

      desc "requirements", "List requirements; exit code 1 if any is not met"
      def requirements
        list = client.get("/api/hearing")["wishes"].map do |one|
          { "wish" => one["number"], "wants" => one["words"], "source" => one["source_title"], "listener" => one["listener_title"], "db" => one["db"],
            "state" => one["kept"] ? "kept" : "broken" }
        end
        show(list) { Answers.wishes(list) }
        exit(1) if list.any? { |one| one["state"] == "broken" }
      end

      desc "outputs", "Each output that carries something: source, tap, delay and where it comes out"
      def outputs
        rows = client.get("/api/outputs/rows")
        show(rows) { Answers.outputs(rows) }
      end

      desc "capture --seconds N [--name S]", "Capture the armed tracks and wait for the end"
      option :seconds, type: :numeric, required: true
      option :name, type: :string, default: ""
      def capture
        raise Client::Failed, "--seconds must be above 0." unless options[:seconds].positive?

        rate = client.get("/api/state")["rate"]
        started = client.post("/api/capture", "name" => options[:name], "frames" => (options[:seconds] * rate).round)
        take = wait_for(started["id"])
        show(Answers.capture_document(take)) { Answers.take(take) }
        exit(1) unless take["state"] == "complete"
      end

      desc "takes", "Takes, newest first"
      def takes
        list = client.get("/api/takes")
        show(list) { Answers.takes(list) }
      end

      desc "line-check", "Line check: every source with its verdict and what to do; exit code 1 unless all are good"
      def line_check
        lines = client.get("/api/line-check")["lines"]
        show(lines) { Answers.roll(lines) }
        exit(1) unless lines.all? { |line| line["verdict"] == "good" }
      end

      desc "mark [NAME]", "Set a marker in the take under way"
      def mark(name = nil)
        made = client.post("/api/capture/mark", { "name" => name }.compact)
        show(made) { "#{made['name']} at sample #{made['at']}." }
      end

      desc "export TAKE [--form zip|folder] [--sound flac]", "Pack a take with markers, patch sheet and checksums, and wait for it"
      option :form, type: :string, default: "zip", enum: %w[zip folder]
      option :sound, type: :string, default: "captured", desc: "captured, 24, 16 (dithered), flac, or together in one file"
      def export(take)
        made = client.post("/api/exports", "take" => take.match?(/\A\d+\z/) ? take.to_i : take, "form" => options[:form], "sound" => options[:sound])
        sleep(0.3) while %w[waiting running].include?((made = client.get("/api/exports").find { |one| one["id"] == made["id"] })["state"])
        raise Client::Failed, made["error"] || "The export was cancelled." unless made["state"] == "done"

        show(made) { made["result"] }
      end

      desc "click --bpm N --bars N --out FILE", "Make a click as a WAV or MIDI file (by the name's end)"
      option :bpm, type: :string, required: true, desc: "quarter notes per minute"
      option :meter, type: :string, default: "4/4"
      option :bars, type: :numeric, required: true
      option :subdivision, type: :string, desc: "beats, quarters, eighths, triplets or sixteenths"
      option :accents, type: :string, desc: "beats, such as 1,4,6"
      option :sound, type: :string, desc: "wood, pin, shell or reed"
      option :out, type: :string, required: true
      def click
        form = { ".wav" => "wav", ".mid" => "mid", ".midi" => "mid" }.fetch(File.extname(options[:out]).downcase) { raise Client::Failed, "--out ends in .wav or .mid." }
        raise Client::Failed, "#{options[:out]} is there already." if File.exist?(options[:out])

        asked = options.slice("bpm", "meter", "bars", "subdivision", "accents", "sound").merge("form" => form)
        bytes = client.save("/api/click?#{URI.encode_www_form(asked)}", options[:out])
        show({ "file" => File.expand_path(options[:out]), "bytes" => bytes, **asked }) { "#{options[:out]}, #{bytes} bytes." }
      end

      desc "flip stage|take [--channels 1-16 | --take N]", "Move channels between stage and take; with --take, only those that hear a track of it"
      option :channels, type: :string
      option :take, type: :string
      def flip(to)
        raise Client::Failed, "Flip to stage or take, not \"#{to}\"." unless %w[stage take].include?(to)

        body = { "to" => to, "channels" => options[:channels] && Ranges.parse(options[:channels]), "take" => options[:take] }.compact
        done = client.post("/api/flip", body)
        show(done) { "#{done['changes'].size} channels moved to #{to}." }
        fail_for(done["desk_problems"])
      end

      desc "play TAKE [--from S] [--to S] [--loop]", "Send a take back into the desk"
      option :from, type: :numeric, default: 0
      option :to, type: :numeric
      option :loop, type: :boolean, default: false
      def play(take)
        rate = client.get("/api/state")["rate"]
        number = take.match?(/\A\d+\z/) ? take.to_i : take
        body = { "take" => number, "from" => (options[:from] * rate).round, "to" => options[:to] && (options[:to] * rate).round, "loop" => options[:loop] }
        playing = client.post("/api/take-playback", body.compact)
        show(playing) { "Playing take #{playing['number']} #{playing['name']}." }
      end

      desc "stop", "Stop playback"
      def stop
        show(client.post("/api/take-playback/stop")) { "Stopped." }
      end

      desc "songs", "Songs of this computer"
      def songs
        list = client.get("/api/songs")
        show(list) { Answers.songs(list) }
      end

      desc "song add|play|stop|render …", "One song: import, play to the stage, render as files (see song help)"
      subcommand "song", SongCommands

      desc "order", "The running order for the night"
      def order
        data = client.get("/api/player")
        show(data["items"]) { |items| Answers.order(items, data) }
      end

      desc "roles [set ROLE OUTPUT]", "Role outputs; OUTPUT is a number, a pair such as 1,2, or none. Exit code 1 if a role is unassigned"
      def roles(word = nil, role = nil, output = nil)
        set_role(role, output) if word == "set"
        raise Client::Failed, "Say roles, or roles set ROLE OUTPUT." unless word.nil? || word == "set"

        list = client.get("/api/player")["roles"]
        show(list) { Answers.roles(list) }
        exit(1) if list.any? { |one| one["outputs"].empty? && one["kind"] == "parts" }
      end

      no_commands do
        def set_role(name, output)
          known = client.get("/api/player")
          role = known["roles"].find { |one| one["name"].casecmp?(name.to_s) }
          raise Client::Failed, "There is no role \"#{name}\"; there are #{known['roles'].map { |one| one['name'] }.join(', ')}." unless role
          raise Client::Failed, "An output is a number, a pair such as 1,2, or none." unless output.to_s.match?(/\A(?:none|\d{1,2}(?:,\d{1,2})?)\z/)

          outputs = output == "none" ? [] : output.split(",").map(&:to_i)
          client.post("/api/edits", "version" => known["version"], "settings" => { "role/#{role['number']}/outputs" => outputs })
        end

        # Waits until the recorder has closed the take's files and it is listed.
        def wait_for(id)
          loop do
            sleep(0.2)
            raise Client::Failed, "Recorder lost during capture. Check the take after it restarts." unless client.get("/api/health")["recorder"]

            take = client.get("/api/takes").find { |one| one["id"] == id }
            return take if take && take["state"] != "capturing"
          end
        end

        def fail_for(problems)
          return if problems.empty?

          problems.each { |problem| warn problem }
          exit(1)
        end
      end
    end
  end
end
