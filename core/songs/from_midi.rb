# frozen_string_literal: true

module Loomshuttle
  module Songs
    # Tempo map and sections of a song from a Standard MIDI File: tempos, time signatures, and markers, which start sections at their bars.
    module FromMidi
      class << self
        # @param midi [Formats::MidiReader]
        # @return [Hash] "tempos", "meters" and "sections" as in SongFile, as far as the file contains them
        def changes(midi)
          meters = meters(midi)
          found = { "meters" => meters }
          found["tempos"] = tempos(midi) if midi.tempos.any?
          sections = sections(midi, meters)
          found["sections"] = sections if sections.any?
          found
        end

        private

        def nearest_bar(map, quarter)
          bar, beat = map.place(quarter)
          beat > 1.5 ? bar.floor + 1 : bar.floor
        end

        def tempos(midi)
          list = midi.tempos.map { |at, bpm| [at, bpm.clamp(Timing::TempoMap::BPM.min, Timing::TempoMap::BPM.max)] }
          list = [[0r, list.first.last], *list] unless list.first.first.zero?
          list.reverse.uniq(&:first).reverse.chunk_while { |one, other| one.last == other.last }.map(&:first).first(Timing::TempoMap::MOST)
            .map { |at, bpm| { "at" => place(at), "bpm" => bpm.to_f.round(3), "ramp" => false } }
        end

        def place(at) = at.denominator == 1 ? at.numerator : at.to_s

        # Each from the bar that begins there, or the next one.
        def meters(midi)
          list = midi.meters.select { |_, beats, unit| Timing::TempoMap::BEATS.cover?(beats) && Timing::TempoMap::UNITS.include?(unit) }
          list = [[0r, 4, 4], *list] if list.empty? || list.first.first.positive?
          bar, from, length = 1, 0r, Rational(4)
          list.map do |at, beats, unit|
            bar += ((at - from) / length).ceil
            from, length = at, Rational(beats * 4, unit)
            { "bar" => bar, "meter" => "#{beats}/#{unit}" }
          end.reverse.uniq { |one| one["bar"] }.reverse.first(Timing::TempoMap::MOST)
        end

        def sections(midi, meters)
          map = Timing::TempoMap.new([Timing::TempoMap::Tempo.new(at: 0, bpm: 120, ramp: false)],
                                     meters.map { |one| Timing::TempoMap.meter(one["meter"], bar: one["bar"]) }, rate: 48_000)
          named = midi.markers.reject { |_, name| name.empty? || name.match?(/\Aend\b/i) }.map { |at, name| [nearest_bar(map, at), name] }
          named.uniq(&:first).first(SongFile::SECTIONS).each.with_index(1).map { |(bar, name), key| { "key" => key, "name" => name[0, 40], "bar" => bar } }
        end
      end
    end
  end
end
