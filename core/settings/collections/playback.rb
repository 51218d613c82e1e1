# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What leaves the computer beside songs, and by which way: the rig's playback interface and its cables, or card returns.
    #   returns      first lanes of the card's streams that playback has to itself; none: by the interface
    #   pilot_on, pilot_hz, pilot_db   the steady tone that says that the player is well
    #   timecode_fps frames a second of linear timecode
    Playback = declare("playback", :playback, :one, words: ->(_, _) { "Playback" }) do
      setting :returns, PlaybackKinds.returns, blank: [].freeze, words: "card returns from", part: "playback"
      setting :pilot_on, Kinds.boolean, blank: false, words: "pilot", part: "playback"
      setting :pilot_hz, RoomKinds.figure(20..20_000, 1, "Hz"), blank: 19_000, words: "pilot frequency", unit: "Hz", part: "playback"
      setting :pilot_db, RoomKinds.figure(-90..0, 10, "dB"), blank: -30, words: "pilot level", unit: "dB", part: "playback"
      setting :timecode_fps, Kinds.one_of(24, 25, 30), blank: 25, words: "timecode", unit: "frames per second", part: "playback"
    end
  end
end
