# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Edits that the core computes, by name. They are previewed as a list of changes and then applied.
    module Propose
      # An edit with the parts it is made of, and what was not understood on the way.
      Proposal = Value.define(:edit, :parts, :problems)
      # What was not understood, and where: a line of a list, or a setting. group: heading of the problems of its kind, which follow each other; or nil
      Problem = Value.define(:where, :message, :group)

      KINDS = {
        "settings" => :settings, "run_straight" => :run_straight, "flip" => :flip, "add_box" => :add_box, "remove_box" => :remove_box,
        "connect_box" => :connect_box, "chain_offsets" => :chain_offsets, "desk" => :desk, "clock" => :clock, "tracks" => :tracks, "main_mix" => :main_mix,
        "join" => :join, "split" => :split, "auto_patch" => :auto_patch, "input_list" => :input_list,
        "recall" => :recall, "listeners" => :listeners, "speaker_delays" => :speaker_delays, "outputs" => :outputs,
        "wet_capture" => :wet_capture, "second_channel" => :second_channel, "speaker" => :speaker,
        "playback_wishes" => :playback_wishes, "split_playback" => :split_playback, "add_song" => :add_song, "cable" => :cable,
        "play_to" => :play_to, "mix_range" => :mix_range, "move_lanes" => :move_lanes
      }.freeze

      NUMBER = Shape.whole(0..9999)
      WORD = Shape.text(most: 80)
      ANYTHING = Shape::Kind.new(->(value, _) { value })
      SETTINGS = Shape.map(ANYTHING, most: 20_000)
      ROLES = Shape.list(Shape.record({ "name" => Shape.text(most: 40) }, { "kind" => WORD, "outputs" => Shape.list(NUMBER, most: 2) }), most: 200)
      # Options of each kind, checked before anything is computed. Values of settings are checked by Rules.
      OPTIONS = {
        "settings" => { "settings" => SETTINGS, "label" => Shape.or_none(Shape.text(most: 200)), "moving" => Shape.one_of(*Completed::WAYS) },
        "run_straight" => { "column" => WORD, "first" => NUMBER, "count" => NUMBER, "start" => Shape.any_of(NUMBER, WORD) },
        "flip" => { "to" => WORD, "channels" => Shape.or_none(Shape.list(NUMBER, most: 1024)) },
        "add_box" => { "profile" => WORD, "port" => Shape.or_none(WORD) }, "remove_box" => { "box" => WORD }, "connect_box" => { "box" => WORD, "port" => Shape.or_none(WORD) },
        "chain_offsets" => { "port" => WORD }, "desk" => { "desk" => WORD }, "clock" => { "leader" => WORD },
        "tracks" => { "first" => NUMBER, "count" => NUMBER, "track" => NUMBER, "lane" => NUMBER, "stereo" => Shape.boolean },
        "main_mix" => {}, "join" => { "channel" => NUMBER }, "split" => { "channel" => NUMBER },
        "auto_patch" => { "only" => Shape.or_none(Shape.list(WORD, most: 1024)) },
        "input_list" => { "text" => Shape.text(most: Formats::InputList::LONGEST, lines: true), "columns" => Shape.map(Shape.text(most: 40), most: 200),
                          "header" => Shape.or_none(NUMBER),
                          "only" => Shape.or_none(Shape.list(WORD, most: 1024)) },
        "recall" => { "settings" => SETTINGS, "label" => Shape.text(most: 200) }, "listeners" => {}, "speaker_delays" => {},
        "outputs" => { "first" => NUMBER, "count" => NUMBER, "source" => WORD, "kind" => Shape.one_of("output", "personal") },
        "wet_capture" => { "channels" => Shape.list(NUMBER, most: 1024) }, "second_channel" => { "channel" => NUMBER, "main" => Shape.boolean },
        "speaker" => { "output" => NUMBER }, "playback_wishes" => {}, "split_playback" => { "first" => NUMBER },
        "add_song" => { "song" => WORD, "title" => WORD, "roles" => ROLES, "at" => Shape.or_none(NUMBER) },
        "cable" => { "first" => NUMBER, "count" => NUMBER, "socket" => WORD },
        "play_to" => { "tracks" => Shape.list(NUMBER, most: 1024), "first" => Shape.whole(1..9999), "shared" => Shape.boolean },
        "mix_range" => { "channels" => Shape.list(NUMBER, most: 1024), "main" => Shape.boolean, "polarity" => Shape.boolean, "tap" => Shape.or_none(WORD),
                         "subgroup" => NUMBER, "within" => Shape.boolean, "name" => Shape.text(most: 40) },
        "move_lanes" => { "way" => Shape.one_of("return", "send"), "from" => Shape.whole(1..9999), "count" => Shape.whole(1..64), "to" => Shape.whole(1..9999) }
      }.transform_values { |fields| Shape.record({}, fields) }.freeze

      # @param show [Settings::Show]
      # @param kind [String] a key of KINDS
      # @param options [Hash{String=>Object}] arguments of that kind
      # @return [Proposal]
      # @raise [Invalid] if it is impossible, or an option is missing
      def self.for(show, kind, options)
        name = KINDS[kind] or raise Invalid.new("There is no step \"#{kind}\"; known are #{KINDS.keys.join(', ')}.", where: "kind")
        made = send(name, show, OPTIONS.fetch(kind).check(options, "options"))
        made.is_a?(Proposal) ? made : Proposal.new(edit: made, parts: [], problems: [])
      rescue KeyError => e
        raise Invalid.new("A step \"#{kind}\" needs #{e.key}.", where: e.key.to_s)
      end

      class << self
        private

        def settings(show, options)
          settings = PersonalTaps.settings(show, BothSides.settings(show, options.fetch("settings")))
          Settings::Edit.set(options["label"] || Settings::Telling.label(show, settings), Completed.settings(show, settings, moving: options.fetch("moving", "slot")))
        end

        def run_straight(show, options)
          RunStraight.edit(show, column: options.fetch("column"), first: options.fetch("first"), count: options.fetch("count"), start: options.fetch("start"))
        end

        def flip(show, options) = Flip.edit(show, to: options.fetch("to"), channels: options["channels"])
        def add_box(show, options) = Chain.add(show, profile: options.fetch("profile"), port: options["port"])
        def remove_box(show, options) = Chain.remove(show, options.fetch("box"))
        def connect_box(show, options) = Chain.connect(show, options.fetch("box"), options["port"])
        def main_mix(show, _options) = SparePair.edit(show)
        def join(show, options) = Pairs.join(show, options.fetch("channel"))
        def split(show, options) = Pairs.split(show, options.fetch("channel"))

        def listeners(show, _options) = Listeners.edit(show)
        def wet_capture(show, options) = WetCapture.edit(show, options.fetch("channels"))
        def second_channel(show, options) = SecondChannel.edit(show, options.fetch("channel"), main: options.fetch("main", false))
        def speaker_delays(show, _options) = DelaySpeakers.edit(show)
        def speaker(show, options) = Speaker.edit(show, options.fetch("output"))

        # How the desk is mixed does not matter: what carries a role is patched.
        def playback_wishes(show, _options) = PlaybackWishes.edit(show, Hearing::Survey.of(show, {}))
        def split_playback(show, options) = PlaybackOutputs.split(show, first: options.fetch("first", 1))
        def add_song(show, options) = AddSong.edit(show, song: options.fetch("song"), title: options.fetch("title"), roles: options.fetch("roles", []), at: options["at"])

        def play_to(show, options) = PlayTo.edit(show, options.fetch("tracks"), first: options.fetch("first"), shared: options.fetch("shared", false))

        def mix_range(show, options) = MixRange.edit(show, options.fetch("channels"), **options.except("channels").transform_keys(&:to_sym))
        def move_lanes(show, options) = MoveLanes.edit(show, options.fetch("way"), from: options.fetch("from"), to: options.fetch("to"), count: options.fetch("count", 2))

        def cable(show, options)
          PlaybackOutputs.cable(show, first: options.fetch("first"), count: options.fetch("count"), socket: options.fetch("socket"))
        end

        def outputs(show, options)
          OutputRange.edit(show, first: options.fetch("first"), count: options.fetch("count"), source: options.fetch("source"), kind: options.fetch("kind", "output"))
        end

        def chain_offsets(show, options)
          port = options.fetch("port")
          Settings::Edit.set("Set the offsets of link #{port.upcase} in order", Chain.offsets(show.layout.chain(port)))
        end

        def desk(show, options)
          id = options.fetch("desk")
          Settings::Edit.set("Change the desk to #{show.catalog.fetch('desk', id).name}", Settings::Refit.settings(show, id))
        end

        def clock(show, options) = Settings::Clock.lead(show, options.fetch("leader"))

        def tracks(show, options)
          TracksFromChannels.edit(show, first: options.fetch("first"), count: options.fetch("count"), track: options.fetch("track", options["first"]),
                                        lane: options.fetch("lane", options["first"]), stereo: options.fetch("stereo", false))
        end

        def auto_patch(show, options, entries = nil, problems = [])
          parts = AutoPatch.parts(show, entries, only: options["only"])
          edit = AutoPatch.edit(show, entries, only: options["only"])
          label = entries ? "Input list of #{entries.size} inputs" : "Auto-patch"
          Proposal.new(edit: edit.with(label: label), parts: parts.map { |part| part.to_h.except(:settings) }, problems: problems)
        end

        def input_list(show, options)
          read = Formats::InputList.read(options.fetch("text"), show, known: options.fetch("columns", {}), header: options["header"])
          unmet = AutoPatch.unmet(show, read.entries, only: options["only"]).map { |entry, message, kind| [entry.line, message, kind] }
          unknown = read.unknown.map { |word| [read.line, "the column \"#{word}\" is not known and was skipped", :column] }
          problems = read.problems + (unmet + unknown).map { |line, message, kind| Formats::InputList::Problem.new(line: line, message: message, kind: kind) }
          auto_patch(show, options, read.entries, Formats::ListRemarks.of(problems).map { |one| Problem.new(**one.to_h) })
        end

        # Parts of a patch that were saved before.
        def recall(show, options)
          settings, lacks = Recall.settings(show, options.fetch("settings"))
          problems = lacks.map { |path| Problem.new(where: path, message: "this rig has no such setting; skipped", group: nil) }
          Proposal.new(edit: Settings::Edit.set(options.fetch("label", "Recall"), settings), parts: [], problems: problems)
        end
      end
    end
  end
end
