# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    # Keeps the player's running order, roles and pilot equal to the open show, receives its state, and passes commands on.
    class PlayOrder
      COMMANDS = %w[load play stop fade panic jump around stop.at take.back follow go].freeze

      # @param open_show [OpenShow]   @param library [SongLibrary]   @param hub [LiveHub]   @param path [String] of the player's socket
      # @param on_change [Proc] called after each change of state
      def initialize(open_show, library, hub:, path:, on_change:)
        @open_show, @library, @hub, @on_change = open_show, library, hub, on_change
        @link = PlayerLink.new(path, on_up: method(:came), on_meters: ->(levels) { @hub.tell_often("song", levels) }, on_state: method(:heard))
        @plan_sender = PlanSender.new(method(:configure), name: "sends the running order")
      end

      def start = [@link, @plan_sender].each(&:start)
      def stop = [@plan_sender, @link].each(&:stop)

      def up? = @link.up?

      # @return [PlayerLink]
      attr_reader :link

      # @return [Hash, nil] the player's status as it was told last
      attr_reader :status

      # Notes that the show or a song has changed.
      def follow = @plan_sender.follow

      # @param command [String] of COMMANDS   @param options [Hash]
      # @return [Hash] the player's status
      # @raise [Away] @raise [Invalid]
      def command(command, options)
        heard(@link.call(command, **options.transform_keys(&:to_sym)))
      end

      # @return [Array<Hash>] playback sound cards of this computer: id, words
      # @raise [Away]
      def sound_devices = @link.call("sound.devices")

      # What the porter needs to render a song as it would be played.
      # @param show [Settings::Show]   @param song [String] id
      # @return [Hash]
      def to_render(show, song)
        items = items(show)
        at = items.index { |one| one[:song] == song }
        item = at ? items[at] : { key: 1, song: song }
        JSON.parse(JSON.generate({ roles: roles(show), pilot: pilot(show), item: item.compact, fps: show.playback.timecode_fps, hour: at.to_i + 1 }))
      end

      private

      def came
        @plan_sender.follow
        heard(@link.call("status"))
      end

      def heard(status)
        @status = status
        @hub.tell("player", status&.except("code") || { "state" => "away" }, keep: true) # everybody hears it
        @on_change.call
        status
      end

      # @raise [Away] if the recorder is away; it gets the configuration when it returns
      def configure
        return unless @open_show.known?

        show = @open_show.seen.show
        heard(@link.call("configure", items: items(show), roles: roles(show), pilot: pilot(show), fps: show.playback.timecode_fps, returns: show.playback.returns))
      end

      # Songs only; a missing song is reported when it should play.
      def items(show)
        versions = @library.all.to_h { |entry| [entry.id, entry.data && entry.data["version"]] }
        show.setlist.values.select { |item| item.kind == "song" && item.song }.map do |item|
          { key: item.number, song: item.song, version: versions[item.song], skips: item.skips, repeats: item.repeats, follows: item.follows,
            pause: item.follows == "pause" ? item.pause_s : nil, tempo: item.tempo, key_by: item.key }
        end
      end

      def roles(show)
        show.roles.values.map do |role|
          { name: role.title, kind: role.kind, outputs: role.outputs, sum_db: role.sum_db, gain_db: role.gain_db, bed_db: role.bed_db }
        end
      end

      def pilot(show) = { hz: show.playback.pilot_hz, level_db: show.playback.pilot_db, mute: !show.playback.pilot_on }
    end
  end
end
