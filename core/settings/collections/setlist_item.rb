# frozen_string_literal: true

module Loomshuttle
  module Settings
    # An entry of the running order: a song of the computer's library as it goes tonight, or a pause, or talk.
    #   song      its id                              title    what people call it; of a song the name it had when it was put in
    #   minutes   of a pause or of talk               skips    keys of sections that are left out
    #   repeats   key of a section => how often       follows  what comes after it, or nil: as the song says; pause_s of "pause"
    #   tempo     percent of the song's own               key      semitones that it is transposed by
    SetlistItem = declare("setlist", :setlist, :list, key: :number, words: ->(show, key) { show.setlist[key]&.told || "Entry #{key}" }, list: "running order") do
      setting :kind, Kinds.one_of("song", "pause", "talk"), blank: "song", words: "type"
      setting :song, PlaybackKinds.song.or_none, blank: nil, words: "song"
      setting :title, Kinds.text(80), blank: "", words: "title"
      setting :minutes, Kinds.whole(0..180), blank: 0, words: "length", unit: "minutes"
      setting :skips, PlaybackKinds.sections, blank: [].freeze, words: "skipped sections"
      setting :repeats, PlaybackKinds.repeats, blank: {}.freeze, words: "repeated sections"
      setting :follows, Kinds.one_of("hand", "on", "pause").or_none, blank: nil, words: "next song", nothing: "as the song says"
      setting :pause_s, RoomKinds.figure(0..3600, 10, "s"), blank: 0, words: "pause before next", unit: "s"
      setting :tempo, Kinds.whole(70..140), blank: 100, words: "tempo", unit: "%"
      setting :key, Kinds.whole(-6..6), blank: 0, words: "transposed by", unit: "semitones"
    end

    class SetlistItem
      # @return [String]
      def told = title.empty? ? "#{kind.capitalize} #{number}" : title
    end
  end
end
