# frozen_string_literal: true

require "json"
require "securerandom"

module Loomshuttle
  module Player
    # The player's configuration, kept in a file over a restart: running order, outputs of roles, pilot. An invalid file is moved aside, and the
    # player starts without one.
    class Config
      KEY = Shape.whole(1..99_999)
      ITEM = Shape.record({ "key" => KEY, "song" => Shape.text(most: 36, pattern: Songs::SongFile::ID) },
                          { "version" => Shape.or_none(Shape.whole(1..Shape::LARGEST)), "skips" => Shape.list(KEY, most: 500),
                            "repeats" => Shape.map(Shape.whole(1..99), most: 500), "follows" => Shape.or_none(Shape.one_of(*Songs::SongFile::FOLLOWS)),
                            "pause" => Shape.or_none(Shape.number(0..3600)), "tempo" => Shape.whole(Songs::Varied::TEMPO), "key_by" => Shape.whole(Songs::Varied::KEY) })
      OUTPUTS = Shape.list(Shape.whole(1..64), most: 2)
      ROLE = Shape.record({ "name" => Shape.text(most: 40, least: 1), "kind" => Shape.one_of(*Songs::Role::KINDS), "outputs" => OUTPUTS },
                          { "sum_db" => Shape.one_of(*Songs::Role::SUMS), "gain_db" => Songs::SongFile::DECIBELS, "bed_db" => Shape.or_none(Songs::SongFile::DECIBELS) })
      PILOT = Shape.record({ "hz" => Shape.number(20..20_000), "level_db" => Shape.number(-90..0), "mute" => Shape.boolean })
      FOLLOW = Shape.record({ "host" => Shape.text(most: 255, least: 1, pattern: /\A[a-z0-9.:-]+\z/i), "port" => Shape.whole(1..65_535),
                              "code" => Shape.text(most: 12, least: 4, pattern: /\A[0-9a-z]+\z/) })
      # A raw MIDI device by its name, and what its messages ask for ("control 64 ch 1" => "go").
      FOOT = Shape.record({}, { "midi" => Shape.or_none(Shape.text(most: 40, pattern: /\A[\w.-]+\z/)),
                                "keys" => Shape.map(Shape.one_of(*FootKeys::WORDS), most: 100) })
      # Frames that are sent ahead.
      BUFFER = (480..9600)
      FIELDS = { "items" => Shape.list(ITEM, most: 1000), "roles" => Shape.list(ROLE, most: 200), "pilot" => PILOT, "buffer" => Shape.whole(BUFFER),
                 "returns" => Shape.list(Shape.whole(1..4096), most: 2), "sound" => Shape.or_none(Shape.record(Runtime::SoundDevices::FIELDS)),
                 "fps" => Shape.one_of(*Audio::Ltc::FRAMES), "code" => Shape.text(most: 12, least: 4, pattern: /\A[0-9a-z]+\z/),
                 "follow" => Shape.or_none(FOLLOW), "foot" => FOOT }.freeze
      SHAPE = Shape.record({}, FIELDS)
      DEFAULTS = { "items" => [], "roles" => [], "pilot" => { "hz" => 19_000, "level_db" => -30, "mute" => true }, "buffer" => 960, "fps" => 25, "returns" => [], "sound" => nil,
                   "follow" => nil,
                   "foot" => { "midi" => nil, "keys" => {} } }.freeze

      # @param path [String, nil] of the file; nil keeps nothing on disk   @param aside [Runtime::Aside, nil] takes an unreadable file
      def initialize(path, aside = nil)
        @path = path
        @data = { "code" => SecureRandom.random_number(1_000_000).to_s.rjust(6, "0") }.merge(DEFAULTS, (path && read(aside)) || {})
      end

      def [](field) = @data[field]

      # @param changes [Hash{String=>Object}] absent fields stay as they are
      # @raise [Invalid]
      def change(changes)
        @data = @data.merge(SHAPE.check(changes, "player"))
        Runtime::Files.replace(@path, JSON.generate(@data)) if @path
      rescue SystemCallError => e
        Runtime::Health.trouble(e, "keeping #{@path}")
      end

      # @return [Array<Songs::Role>]
      def roles
        @data["roles"].map do |one|
          Songs::Role.new(name: one["name"], kind: one["kind"], outputs: one["outputs"], sum_db: one.fetch("sum_db", -3), gain_db: one.fetch("gain_db", 0), bed_db: one["bed_db"])
        end
      end

      # @return [Runtime::SoundDevices::Device, nil] the sound card of this computer that playback uses
      def sound = @data["sound"] && Runtime::SoundDevices::Device.new(**@data["sound"].transform_keys(&:to_sym))

      # @return [Pilot::Tone, nil] nil while the pilot is muted or has no output
      def pilot
        tone, outputs = @data["pilot"], roles.select { |role| role.kind == "pilot" }.flat_map(&:outputs)
        Pilot::Tone.new(hz: tone["hz"], amplitude: Songs::Role.amplitude(tone["level_db"]), outputs: outputs) unless tone["mute"] || outputs.empty?
      end

      private

      def read(aside)
        return aside.read(@path) { |data| SHAPE.check(data, File.basename(@path)) } if aside

        SHAPE.check(Runtime::Files.read_json(@path), File.basename(@path)) if File.exist?(@path)
      rescue Invalid, SystemCallError
        nil
      end
    end
  end
end
