# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Stage
      # The players in the order of their sockets, with level at a preamp gain of 0 dB (dBFS peak), voice and its parameters. Invented, like the
      # band.
      module Players
        Player = Value.define(:name, :voice, :level, :figures)

        LIST = [
          ["Tuba", :tone, -44, { notes: [41, 43, 46, 48], beat: 0.8, hold: 0.7, partials: [1, 0.6, 0.35, 0.15] }],
          ["Cornet 1", :tone, -38, { notes: [70, 72, 74, 77], beat: 0.4, hold: 0.8, partials: [1, 0.8, 0.6, 0.4, 0.2] }],
          ["Cornet 2", :tone, -39, { notes: [65, 67, 69, 70], beat: 0.4, hold: 0.6, partials: [1, 0.7, 0.6, 0.3, 0.2] }],
          ["Fiddle", :tone, -47, { notes: [67, 69, 71, 74, 76], beat: 0.2, hold: 0.95, partials: [1, 0.5, 0.6, 0.3, 0.3] }],
          ["Accordion", :tone, -40, { notes: [60, 64, 67], beat: 1.6, hold: 0.98, partials: [1, 0.4, 0.5, 0.1, 0.3], detune: 1.006 }],
          ["Frame drum", :drum, -24, { beat: 0.4, pitch: 92, decay: 14 }],
          ["Bass DI", :tone, -32, { notes: [33, 36, 38, 40], beat: 0.4, hold: 0.5, partials: [1, 0.3, 0.1] }],
          ["Bass mic", :tone, -45, { notes: [33, 36, 38, 40], beat: 0.4, hold: 0.6, partials: [1, 0.5, 0.3, 0.2] }],
          ["Whistles", :tone, -43, { notes: [79, 81, 83, 86], beat: 0.2, hold: 0.85, partials: [1, 0.1] }],
          ["Voice Ada", :tone, -48, { notes: [62, 64, 66, 69], beat: 0.8, hold: 0.75, partials: [1, 0.7, 0.4, 0.3, 0.1] }],
          ["Voice Bram", :tone, -46, { notes: [50, 52, 54, 57], beat: 0.8, hold: 0.7, partials: [1, 0.8, 0.5, 0.2] }],
          ["Voice Cato", :tone, -47, { notes: [57, 59, 61, 62], beat: 1.6, hold: 0.6, partials: [1, 0.6, 0.4, 0.2] }],
          ["Quay left", :air, -58, { smooth: 24 }],
          ["Quay right", :air, -58, { smooth: 32 }],
          ["Spare", :silence, -144, {}],
          ["Hurdy-gurdy", :hum, -50, { mains: 50, notes: [55, 62], beat: 1.6 }],
          ["Euphonium", :tone, -42, { notes: [46, 48, 50, 53], beat: 0.8, hold: 0.8, partials: [1, 0.5, 0.3, 0.1] }],
          ["Trombone", :tone, -40, { notes: [48, 50, 53, 55], beat: 0.8, hold: 0.75, partials: [1, 0.8, 0.6, 0.3] }],
          ["Flugel", :tone, -41, { notes: [62, 65, 67, 69], beat: 0.4, hold: 0.8, partials: [1, 0.6, 0.3] }],
          ["Tenor horn", :tone, -42, { notes: [55, 58, 60, 62], beat: 0.8, hold: 0.7, partials: [1, 0.5, 0.4, 0.1] }],
          ["Viola", :tone, -48, { notes: [55, 57, 60, 62], beat: 0.4, hold: 0.95, partials: [1, 0.6, 0.5, 0.3] }],
          ["Side drum", :drum, -26, { beat: 0.2, pitch: 190, decay: 26 }],
          ["Cymbals left", :drum, -34, { beat: 0.8, pitch: 2200, decay: 5 }],
          ["Cymbals right", :drum, -34, { beat: 0.8, pitch: 2500, decay: 5 }],
          ["Bass drum", :drum, -22, { beat: 0.8, pitch: 55, decay: 9 }],
          ["Guitar DI", :tone, -34, { notes: [52, 55, 59, 62], beat: 0.2, hold: 0.6, partials: [1, 0.4, 0.2, 0.1] }],
          ["Bouzouki DI", :tone, -35, { notes: [62, 64, 67, 69], beat: 0.2, hold: 0.5, partials: [1, 0.5, 0.4, 0.2], detune: 1.003 }],
          ["Concertina", :tone, -43, { notes: [64, 67, 69, 72], beat: 0.4, hold: 0.9, partials: [1, 0.4, 0.5, 0.2] }],
          ["Voice Dora", :tone, -48, { notes: [64, 66, 67, 71], beat: 0.8, hold: 0.7, partials: [1, 0.7, 0.4, 0.2] }],
          ["Step dance", :drum, -30, { beat: 0.2, pitch: 320, decay: 40 }]
        ].map { |name, voice, level, figures| Player.new(name: name, voice: voice, level: level, figures: figures) }.freeze

        # How those sound who were helped: another cable without the hum, somebody at the spare microphone.
        HELPED = [
          ["Spare", :tone, -45, { notes: [53, 55, 58], beat: 0.8, hold: 0.7, partials: [1, 0.7, 0.4, 0.2] }],
          ["Hurdy-gurdy", :tone, -44, { notes: [55, 62, 67], beat: 1.6, hold: 0.95, partials: [1, 0.6, 0.5, 0.3] }]
        ].to_h { |name, voice, level, figures| [name, Player.new(name: name, voice: voice, level: level, figures: figures)] }.freeze
      end
    end
  end
end
