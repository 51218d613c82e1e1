# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # The format of a rig file (docs/desk-control.md). Its limits keep every figure within what a desk can have.
      module RigFile
        ID = Shape.text(most: 60, least: 1, pattern: /\A[a-z0-9-]+\z/)
        WORD = Shape.text(most: 40, least: 1, pattern: /\A[a-z0-9-]+\z/)
        COUNT = Shape.whole(0..512)
        RATE = Shape.whole(Formats::TakeManifest::RATES)
        PREAMP = Shape.record({ "min_db" => Shape.number(-200..200), "max_db" => Shape.number(-200..200), "step_db" => Shape.number(0.01..100) })
        GROUP = Shape.record({ "prefix" => WORD, "count" => COUNT }, { "names" => COUNT, "block" => Shape.whole(1..64) })
        CHANNELS = Shape.record({ "count" => Shape.whole(1..256), "width" => Shape.whole(1..2), "preamp" => PREAMP }, { "trim" => PREAMP })
        MODE = Shape.record({ "id" => Shape.text(most: 40, least: 1), "lanes" => COUNT })
        CARD = Shape.record({ "sends" => Shape.whole(1..256), "returns" => Shape.whole(1..256), "packet" => Shape.whole(8..480), "modes" => Shape.list(MODE, most: 16, least: 1) })
        PATCHING = Shape.record({}, { "stage_block" => Shape.whole(1..64), "free_slots" => Shape.whole(0..256), "take_block" => Shape.whole(1..64),
                                      "port_block" => Shape.whole(1..64) })
        NAMES = Shape.list(WORD, most: 16)
        OUTPUTS = Shape.record({}, { "sources" => NAMES, "taps" => NAMES, "channel_taps" => NAMES, "delay_ms" => Shape.number(0..2000), "trim_db" => Shape.number(0..60),
                                     "polarity" => Shape.boolean })
        MIX = Shape.record({}, { "pan_law" => Shape.text(most: 40), "mute_at" => WORD, "send_taps" => NAMES, "subgroups" => Shape.boolean, "bus_pairs" => Shape.boolean,
                                 "bus_to_main" => Shape.boolean, "outputs" => OUTPUTS })
        DESK = Shape.record(
          { "id" => ID, "name" => Shape.text(most: 80), "taps" => Shape.list(WORD, most: 16, least: 1), "buses" => Shape.whole(0..128),
            "mains" => Shape.list(WORD, most: 8, least: 1), "rates" => Shape.list(RATE, most: 16, least: 1), "channels" => Shape.list(CHANNELS, most: 32, least: 1),
            "inputs" => Shape.list(GROUP, most: 32), "outputs" => Shape.list(GROUP, most: 32), "card" => CARD },
          { "ports" => Shape.list(Shape.text(most: 1, least: 1, pattern: /\A[a-z]\z/), most: 16), "matrices" => Shape.whole(0..64), "mix_outputs" => Shape.whole(0..256),
            "patching" => PATCHING, "flip" => Shape.or_none(WORD), "mix" => MIX, "personal_lanes" => Shape.whole(0..64) }
        )
        BOX = Shape.record({ "id" => ID, "inputs" => Shape.whole(0..256), "outputs" => Shape.whole(0..256) }, { "delay" => Shape.whole(0...Unit::BLOCK) })
        OFFSET = Shape.whole(0...48)
        HUNG = Shape.record({ "profile" => ID, "port" => Shape.text(most: 1, least: 1) }, { "input_offset" => OFFSET, "output_offset" => OFFSET })
        INTERFACE = Shape.record({ "id" => ID, "outputs" => Shape.whole(1..64), "modes" => Shape.list(Shape.record({}, others: true), most: 64) }, others: true)
        PROFILES = Shape.list(Shape.any_of(DESK, BOX, INTERFACE), most: 64)
        CABLES = Shape.map(Shape.text(most: 40, least: 1), most: Cables::MOST)
        RIG = Shape.record({ "desk" => ID }, { "rate" => RATE, "boxes" => Shape.list(HUNG, most: 64), "profiles" => PROFILES,
                                               "interface" => Shape.or_none(ID), "cables" => CABLES })

        # @param data [Object] parsed JSON
        # @return [Hash]
        # @raise [Invalid]
        def self.check(data) = RIG.check(data, "rig")
      end
    end
  end
end
