# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What a bus is for, and how it is mixed.
    #   mode    "mix": each send has a level; "subgroup": a channel is in it or not, and its fader decides
    #   tap     where sends to it are taken that name no tap of their own       main    whether it is on main left and right
    #   paired  whether it is the left of a stereo pair with the next; then its settings count for both
    Bus = declare("bus", :buses, :desk, key: :number, keys: ->(desk) { 1..desk.buses }, words: ->(_, key) { "Bus #{key}" }) do
      setting :name, Kinds.text(NAME), blank: "", part: "names", desk: "bus/%s/label"
      setting :mode, MixKinds.mode, blank: "mix", words: "type", part: "mix", desk: "bus/%s/mode", on: MixKinds::GROUPED
      setting :tap, Kinds.tap_of { |at| at.show.profile.mixing.send_taps }, blank: ->(desk, _) { desk.mixing.usual_send_tap }, words: "send tap", part: "mix"
      setting :main, MixKinds.bus_on_main, blank: false, words: "on main", part: "mix", desk: "bus/%s/main", on: MixKinds::ON_MAIN
      setting :paired, MixKinds.paired, blank: false, words: "paired with next", part: "mix", desk: "bus/%s/pair", on: MixKinds::PAIRED
    end

    class Bus
      # @return [Rig::Point]
      def point = Rig::Point.desk("bus", number)
    end
  end
end
