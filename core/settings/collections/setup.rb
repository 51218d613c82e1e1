# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What is set once for the show.
    #   card_mode, bits   of the card; bits per sample, 24 or 32 (float)    buffer   samples the recorder holds each way
    #   default_tap       where sends are taken that name no tap of their own
    #   own_mix           card returns that the recorder mix of a take leaves on, left and right, or none
    #   mirror            folder on the recording computer that takes a second copy of everything captured, or ""
    #   length_minutes    how long the show is captured
    #   monitoring        "desk", or "computer" when somebody hears the stage through it
    #   desk_follows      "at once": each edit goes to the desk; "when sent": the desk waits until the plan is sent
    #   alignment         dBFS at which a line check wants the loud parts (ALIGNMENT_LEVELS)
    #   temperature       of the air, in °C: how fast sound is there       later_ms  what delayed speakers are later than the main ones, on purpose
    #   accepted          finding id => reason why it may stay
    Setup = declare("setup", :setup, :one, words: ->(_, _) { "Show" }) do
      setting :card_mode, Kinds.one_known { |at| at.show.profile.card_modes.keys }, blank: ->(desk, _) { desk.card_modes.keys.first }, words: "card mode", capture: :always,
                                                                                    desk: "card/mode"
      setting :buffer, Kinds.one_of(*BUFFERS), blank: 1024, words: "recorder buffer", unit: "samples"
      setting :bits, Kinds.one_of(24, 32), blank: 24, words: "bits per sample", capture: :always
      setting :default_tap, Kinds.tap_of { |at| at.show.profile.taps }, blank: ->(desk, _) { desk.taps.first }, words: "default tap", capture: :always
      setting :own_mix, Kinds.lanes { |at| [2, at.show.profile.returns] }, blank: [].freeze, words: "recorder mix on card returns"
      setting :mirror, (Kinds.text(200).also do |path, _|
        path.empty? || path.start_with?("/") ? path : Kinds.refuse("a folder starts with /, such as /media/disk/takes")
      end), blank: "", words: "folder for second copies", capture: :always
      setting :length_minutes, Kinds.whole(1..(24 * 60)), blank: 120, words: "show length", unit: "minutes"
      setting :monitoring, Kinds.one_of("desk", "computer"), blank: "desk", words: "monitoring through"
      setting :desk_follows, Kinds.one_of("at once", "when sent"), blank: "at once", words: "desk follows edits"
      setting :alignment, Kinds.one_of(*ALIGNMENT_LEVELS.keys), blank: ALIGNMENT_LEVELS.keys.first, words: "target level", unit: "dBFS"
      setting :temperature, RoomKinds.figure(-30..50, 10, "°C"), blank: 20, words: "air temperature", unit: "°C"
      setting :later_ms, RoomKinds.figure(0..50, 10, "ms"), blank: 0, words: "extra delay for delay speakers", unit: "ms"
      setting :accepted, Kinds.reasons(500), blank: {}.freeze, words: "accepted findings"
    end
  end
end
