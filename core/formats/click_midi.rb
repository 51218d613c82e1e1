# frozen_string_literal: true

module Loomshuttle
  module Formats
    # A click as a Standard MIDI File: its tempos and time signatures, and a note on the percussion channel for each stroke.
    module ClickMidi
      DIVISION = 960
      # Of General MIDI's percussion: high and low wood block; and how hard.
      NOTES = { "accent" => [76, 120], "beat" => [77, 96], "between" => [77, 56] }.freeze
      # A ramp becomes steps of a quarter beat.
      RAMP = 1/4r

      class << self
        # @param map [Timing::TempoMap]   @param click [Timing::Click]   @param bars [Integer]
        # @return [String]
        def of(map, click, bars)
          last = map.bar(bars + 1)
          file = MidiFile.new(DIVISION)
          tempos(map, last) { |at, bpm| file.tempo(tick(at), bpm) }
          map.meters.each { |meter| file.meter(tick(map.bar(meter.bar)), meter.beats, meter.unit) if meter.bar <= bars }
          (1..bars).each do |bar|
            click.of_bar(bar).each { |stroke| file.note(tick(map.bar(bar) + ((stroke.beat - 1) * map.meter(bar).beat)), 10, *NOTES.fetch(stroke.kind), DIVISION / 8) }
          end
          file.meta(tick(last), 0x06, "end").to_s
        end

        private

        def tick(quarter) = (quarter * DIVISION).round

        def tempos(map, last, &)
          map.tempos.each_with_index do |tempo, at|
            yield tempo.at, tempo.bpm if tempo.at < last
            other = map.tempos[at + 1]
            ramp(tempo, other, last, &) if tempo.ramp && other
          end
        end

        # In the middle of each step it has the ramp's tempo.
        def ramp(tempo, other, last)
          slope = (other.bpm - tempo.bpm) / (other.at - tempo.at)
          tempo.at.step([other.at, last].min - RAMP, RAMP) { |at| yield at, tempo.bpm + (slope * (at - tempo.at + (RAMP / 2))) }
        end
      end
    end
  end
end
