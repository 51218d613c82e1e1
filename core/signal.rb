# frozen_string_literal: true

module Loomshuttle
  # The graph that the settings make: points joined by joins. Everything that asks where sound goes asks here.
  #
  # Points: "box-a/in/3", "desk/in/3" (sockets), "link/a/up/19" (a lane of a link), "desk/ch/7@preamp" (a channel at a tap; "desk/ch/17/l@…" left of a stereo one),
  # "desk/bus/1@post-fader", "card/send/7", "track/7/in", "track/7/out", "card/return/7",
  # "recorder/mix/l" (the recorder's own mix),
  # "desk/output/15" (what a mix is patched to), "link/a/down/15", "box-b/out/7".
  module Signal
    # @param show [Settings::Show]
    # @return [Graph] its structure; how loud it is, Levels say
    def self.build(show) = Build.new(show).graph
  end
end
