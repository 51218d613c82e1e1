# frozen_string_literal: true

module Loomshuttle
  # What the engineer sets, as values; edits of it, as values too.
  module Settings
    # Groups of settings by the first word of a path, and the fields of each. Items are numbered, but boxes go by letter
    # and outlets by block ("a-2").
    GROUPS = { "channel" => :channels, "send" => :sends, "track" => :tracks, "output" => :outputs, "outlet" => :outlets,
               "bus" => :buses, "box" => :boxes }.freeze
    SINGLES = { "rig" => :rig, "setup" => :setup }.freeze
    NAMED = %i[outlets boxes].freeze
    FIELDS = {
      rig: %i[desk rate desk_clock recorder_clock interface],
      boxes: %i[profile port place input_offset output_offset clock spot],
      channels: %i[name short colour stage take position gain phantom mic stand spot paired fixed],
      sends: %i[source tap],
      tracks: %i[name colour stereo inputs outputs armed shares],
      outputs: %i[source expected],
      outlets: %i[first],
      buses: %i[name],
      setup: %i[card_mode buffer bits default_tap own_mix mirror length_minutes monitoring desk_follows alignment accepted]
    }.freeze

    POSITIONS = %w[stage take].freeze
    CLOCKS = %w[leads follows].freeze
    SPOTS = %w[left centre right].freeze
    LETTERS = %w[a b c d e f g h].freeze
    DYES = %w[walnut weld cochineal woad madder terracotta indigo lichen heather iron verdigris saffron].freeze
  end
end
