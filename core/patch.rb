# frozen_string_literal: true

module Loomshuttle
  # What the engineer sets, as values; edits of it, as values too.
  module Patch
    # Groups of settings by the first word of a path, and the fields of each.
    GROUPS = { "channel" => :channels, "send" => :sends, "track" => :tracks }.freeze
    FIELDS = {
      channels: %i[name short colour stage take position gain],
      sends: %i[source tap],
      tracks: %i[name stereo inputs outputs armed],
      setup: %i[card_mode buffer bits]
    }.freeze

    POSITIONS = %w[stage take].freeze
    DYES = %w[walnut weld cochineal woad madder terracotta indigo lichen heather iron verdigris saffron].freeze
  end
end
