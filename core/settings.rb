# frozen_string_literal: true

module Loomshuttle
  # What the engineer sets, as values; edits of it, as values too. Each setting is declared once, in the file of its collection
  # (channel.rb, track.rb, …); everything that must know all of them reads `collections`.
  module Settings
    POSITIONS = %w[stage take].freeze
    CLOCKS = %w[leads follows].freeze
    SPOTS = %w[left centre right].freeze
    LETTERS = %w[a b c d e f g h].freeze
    RATES = [44_100, 48_000, 88_200, 96_000].freeze
    BUFFERS = [128, 256, 512, 1024, 2048, 4096].freeze
    DYES = %w[walnut weld cochineal woad madder terracotta indigo lichen heather iron verdigris saffron].freeze
    # dBFS, and who publishes it.
    ALIGNMENT_LEVELS = { -18 => "EBU R 68", -20 => "SMPTE RP 155" }.freeze
    # Characters of a name, of a short one, of words for the stage, and of notes.
    NAME, SHORT, WORDS, NOTES = 40, 6, 60, 200
    KEPT = 20_000
    private_constant :KEPT

    class << self
      # @return [Array<Collection>] in the order used in files and lists
      def collections
        @collections ||= [RigPlan, Setup, Channel, CardSend, Track, MixOutput, Outlet, Bus, PersonalLane, BoxPlan, Listener, Wish,
                          Cable, PlaybackRole, SetlistItem, Playback].map(&:collection).freeze
      end

      # @param name [String] first word of a path
      # @return [Collection, nil]
      def collection(name) = collections.find { |one| one.name == name }

      # Also finds settings of items that no show has.
      # @param path [String]
      # @return [Array(Collection, Object, Setting), nil] with the item's key (nil for a collection of one); the setting is nil for the order of a list
      def find(path) = (@found ||= {})[path] || keep(path, look_up(path))

      # @return [Object, nil] a setting's initial value; nil if the desk has no such item
      def blank(path, desk)
        collection, key, setting = find(path)
        return [] if collection && setting.nil?

        setting&.blank_for(desk, key) if collection&.could_have?(key, desk)
      end

      # Declares a collection with its settings; see Collection and Setting.
      # @yield evaluated in the collection
      # @return [Class] of the collection's items
      def declare(name, group, sort, **options, &)
        Collection.new(name, group, sort, **options).tap { |collection| collection.instance_exec(&) }.close
      end

      private

      # Paths are looked up thousands of times; valid ones are cached, up to a limit.
      def keep(path, found)
        return unless found

        @found = {} if @found.size >= KEPT
        @found[path.dup.freeze] = found.freeze
      end

      def look_up(path)
        name, *rest = path.split("/", -1)
        collection = collection(name) or return
        return [collection, nil, nil] if collection.list? && path == collection.order

        key = collection.read_key(rest.shift.to_s) unless collection.one?
        setting = collection.settings[rest.join("/").to_sym]
        [collection, key, setting] if setting && (key || collection.one?)
      end
    end
  end
end
