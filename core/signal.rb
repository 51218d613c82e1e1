# frozen_string_literal: true

module Loomshuttle
  # The graph that the settings make: points joined by joins. Everything that asks where sound goes asks here.
  #
  # Points: "desk/in/3" (socket), "desk/ch/7@preamp" (a channel at a tap; "desk/ch/17/l@…" left of a stereo one),
  # "desk/bus/1@post-fader", "card/send/7", "track/7/in", "track/7/out", "card/return/7".
  module Signal
    # @param show [Patch::Show]
    # @return [Graph]
    def self.build(show) = Build.new(show).graph
  end
end
