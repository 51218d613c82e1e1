# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What songs are made of, by name, and where it goes: all stems of a role, or the click, the guide, the pilot, timecode.
    #   outputs   of where playback goes: none, one, or left and right
    #   sum_db    what both sides of a stereo stem are lowered by on one output
    #   bed_db    how loud it also lies under click and guide, for the band; nil: not at all
    PlaybackRole = declare("role", :roles, :list, key: :number, words: ->(show, key) { show.roles[key]&.title || "Role #{key}" }) do
      setting :name, Kinds.text(NAME), blank: "", words: "name"
      setting :group, Kinds.text(NAME), blank: "", words: "group", nothing: "none"
      setting :kind, Kinds.one_of("parts", "click", "guide", "pilot", "timecode"), blank: "parts", words: "type"
      setting :outputs, PlaybackKinds.outputs, blank: [].freeze, words: "outputs"
      setting :sum_db, Kinds.one_of(-3, -6), blank: -3, words: "mono sum", unit: "dB"
      setting :gain_db, RoomKinds.figure(-60..12, 10, "dB"), blank: 0, words: "level", unit: "dB"
      setting :bed_db, RoomKinds.figure(-60..0, 10, "dB").or_none, blank: nil, words: "also in click and guide", unit: "dB", nothing: "not at all"
    end

    class PlaybackRole
      # @return [String] the name, or its number where it has none
      def title = name.empty? ? "Role #{number}" : name
    end
  end
end
