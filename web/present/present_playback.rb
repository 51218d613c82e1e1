# frozen_string_literal: true

module Loomshuttle
  module Web
    # The running order and the outputs of songs, for the Playback page (schema Playback).
    class PresentPlayback
      # @param derived [Derived]   @param library [SongLibrary]   @param order [PlayOrder]   @param who_hears [WhoHears]
      # @param pairs [Boolean] whether the viewer may pair players and so sees the code
      def initialize(derived, library, order, who_hears, pairs: false)
        @derived, @library, @order, @who_hears, @pairs = derived, library, order, who_hears, pairs
        @show = derived.show
      end

      def to_h
        { version: @derived.version, items: items, roles: roles, outputs: outputs, interface: interface, returns: @show.playback.returns, ways: ways,
          pilot: { on: @show.playback.pilot_on, hz: @show.playback.pilot_hz, db: @show.playback.pilot_db },
          timecode_fps: @show.playback.timecode_fps, player: @pairs ? @order.status : @order.status&.except("code"),
          seconds: items.sum { |item| item[:seconds] }.round, hands: items.count { |item| item[:kind] == "song" && item[:follows] == "hand" }, differs: differs }
      end

      private

      def interface = @show.rig.interface && @show.catalog.fetch("interface", @show.rig.interface).name

      # By which playback can leave: the interface and its cables, or one or two streams of the card's returns.
      def ways
        streams = @show.profile.return_points.each_slice(Settings::PlaybackKinds::STREAM).map { |points| [points.first.number, points.last.number] }
        chosen = [*streams.map { |stream| [stream] }, *streams.each_cons(2)]
        chosen << streams.to_h.slice(*@show.playback.returns).to_a if @show.playback.returns.any?
        [{ label: interface || "a playback interface (the rig has none)", returns: [] },
         *chosen.uniq.map { |list| { label: "card returns #{list.first.first} to #{list.last.last}", returns: list.map(&:first) } }]
      end

      def songs = @songs ||= @library.all.to_h { |entry| [entry.id, entry] }

      def items = @items ||= @show.setlist.values.map { |item| item(item) }

      def item(item)
        entry = entry(item)
        song = entry&.data ? entry.song : nil
        { key: item.number, kind: item.kind, title: item.told, song: item.song, seconds: seconds(item, song), tempo: item.tempo, key_by: item.key,
          made: song.nil? || entry.made?, skips: item.skips, repeats: item.repeats,
          played: played.include?(item.number), problem: problem(item, entry, song) }.merge(song ? of_song(item, entry) : NO_SONG)
      end

      # As it goes tonight.
      def entry(item)
        known = item.song && songs[item.song] or return
        known.data ? known.varied(item.tempo, item.key) : known
      rescue Invalid => e
        SongEntry.new(known.id, known.data, known.folder, e.message, [])
      end

      NO_SONG = { dye: "iron", bpm: "", meter: "", sections: 0, follows: "hand", pause: 0, crew: "" }.freeze
      private_constant :NO_SONG

      def of_song(item, entry)
        song, told = entry.song, PresentSongs.entry(entry)
        { title: song.name, dye: song.dye, bpm: told[:bpm], meter: told[:meter], sections: song.parts.size, follows: item.follows || song.follows,
          pause: item.follows ? item.pause_s : song.pause, crew: song.crew }
      end

      def seconds(item, song)
        return item.minutes * 60 unless song

        passes = Songs::Pass.all(song, Songs::Tonight.plain.with(skips: item.skips, repeats: item.repeats.transform_keys(&:to_i)))
        passes.sum(&:frames).fdiv(song.rate).round(1)
      rescue Invalid
        0
      end

      def played = @played ||= (@order.status || {}).fetch("items", []).select { |one| one["played"] }.map { |one| one["key"] }

      def problem(item, entry, song)
        return if item.kind != "song"
        return "this computer has no such song" unless entry
        return entry.problem || "cannot be read" unless song
        return entry.problem if entry.problem
        return "not rendered at #{Songs::Varied.words(item.tempo, item.key)} yet" unless entry.made? || Songs::Varied.plain?(item.tempo, item.key)

        homeless = Songs::Feed.homeless(song, Array(core_roles))
        return "#{homeless.join(', ')} #{homeless.size == 1 ? 'has' : 'have'} no output" if homeless.any?
        return "kept at #{song.rate / 1000.0} kHz, and the rig runs at #{@show.rate / 1000.0} kHz" unless song.rate == @show.rate

        cancelled(song)
      end

      # Stems whose sides are added up at one output, and are gone there.
      def cancelled(song)
        by_name = @show.roles.values.to_h { |role| [role.title, role] }
        gone = song.stems.select { |stem| stem.mono_db && stem.mono_db < PresentSongs::CANCELS && by_name[stem.role]&.outputs&.size == 1 }
        gone.empty? ? nil : "#{gone.map(&:role).join(', ')} cancels in mono"
      end

      def core_roles
        @core_roles ||= @show.roles.values.map { |role| Songs::Role.new(name: role.title, kind: role.kind, outputs: role.outputs, sum_db: role.sum_db, gain_db: role.gain_db, bed_db: role.bed_db) }
      end

      def survey = @survey ||= @who_hears.now.survey

      def roles
        ways = Hearing::RoleWays.of(survey)
        @show.roles.values.map do |role|
          { number: role.number, name: role.title, group: role.group, kind: role.kind, outputs: role.outputs, sum_db: role.sum_db, gain_db: role.gain_db, bed_db: role.bed_db,
            goes: role.outputs.map { |output| goes(output) }, heard_by: heard_by(ways.fetch(role.number)), songs: songs_with(role.title) }
        end
      end

      # By how much each listener hears it, the loudest way.
      def heard_by(sources)
        @show.listeners.values.filter_map do |listener|
          db = sources.filter_map { |source| survey.figure(source, listener.number)&.heard }.max
          { number: listener.number, name: listener.title, kind: listener.kind, db: db.round(1) } if db
        end
      end

      def goes(output)
        to = @show.playback_goes_to(output)
        { output: output, to: to&.name, label: to ? Rig::Label.short(to) : nowhere }
      end

      def nowhere = @show.playback.returns.any? ? "no card return" : "no cable"

      def songs_with(role) = @show.setlist.values.filter_map(&:song).uniq.count { |id| songs[id]&.data && songs[id].song.stems.any? { |stem| stem.role == role } }

      def outputs
        (1..Settings::PlaybackKinds::OUTPUTS).map { |number| goes(number).merge(roles: @show.roles_on(number).map(&:title)) }
      end

      # Where this show sends roles elsewhere than the library does.
      def differs
        known = @library.roles
        @show.roles.values.filter_map do |role|
          usual = known[role.title] or next
          { name: role.title, library: usual["outputs"], show: role.outputs } unless usual["outputs"] == role.outputs
        end
      end
    end
  end
end
