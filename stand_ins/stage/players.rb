# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Stage
      # Who stands at which socket, and how each one sounds: level at a preamp gain of 0 dB (dBFS of the loudest
      # partial's peak), voice, and the voice's figures. Invented, like the band.
      module Players
        Player = Value.define(:socket, :name, :voice, :level, :figures)

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
          ["Hurdy-gurdy", :hum, -50, { mains: 50, notes: [55, 62], beat: 1.6 }]
        ].each.with_index(1).map do |(name, voice, level, figures), number|
          Player.new(socket: "in/#{number}", name: name, voice: voice, level: level, figures: figures)
        end.freeze
      end
    end
  end
end
