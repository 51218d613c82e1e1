# frozen_string_literal: true

module Loomshuttle
  module Web
    # Songs in the terms of the API (schemas SongEntry and Song).
    module PresentSongs
      # Loudness that songs of a night are brought to (LUFS), so that none stands out; common practice, no published source.
      ALIKE = -18
      # Softer than this when both sides are added up, and a stem loses what it is for (dB).
      CANCELS = -9
      UNREADABLE = { name: "A song that cannot be read", version: 0, dye: "iron", seconds: 0, bpm: "", meter: "", sections: 0, stems: 0, loudness: nil, roles: [] }.freeze

      class << self
        # @param entry [SongEntry]
        # @return [Hash]
        def entry(entry)
          base = { id: entry.id, problem: entry.problem || (entry.damaged.any? ? "#{entry.damaged.join(', ')} is damaged" : nil) }
          return base.merge(UNREADABLE) unless entry.data

          song = entry.song
          base.merge(name: song.name, version: song.version, dye: song.dye, seconds: song.seconds.round(1), bpm: bpm(song), meter: song.map.meters.map(&:to_s).uniq.join(", "),
                     sections: song.sections.size, stems: song.stems.size, loudness: song.loudness, roles: song.stems.map(&:role).uniq)
        end

        # @param entry [SongEntry]
        # @return [Hash] the whole song, with derived figures
        def song(entry)
          song = entry.song
          entry.data.except("format").merge(problem: entry(entry)[:problem], lead: song.lead, parts: song.parts.map { |part| part(song, part) }, strokes: strokes(song),
                                            warnings: warnings(song), alike_db: song.loudness ? (ALIKE - song.loudness).round(1) : nil)
        end

        private

        def bpm(song)
          tempos = song.map.tempos.map { |tempo| tempo.bpm.to_f.round(1).to_s.delete_suffix(".0") }.uniq
          tempos.size > 2 ? "#{tempos.first} … #{tempos.last}" : tempos.join(" → ")
        end

        def part(song, part)
          from, to = song.begins(part), song.ends(part)
          first, last = song.place(from).first.floor, song.place(to - 1).first.floor
          { key: part.key, name: part.name, dye: part.dye, from: from, to: to, bar: first, bars: last - first + 1, click: part.click }
        end

        def strokes(song) = Songs::Strokes.of(song).map { |stroke| [stroke.sample, %w[between beat accent].index(stroke.kind)] }

        def warnings(song)
          song.stems.select { |stem| stem.mono_db && stem.mono_db < CANCELS }
            .map { |stem| "#{stem.name} loses #{[-stem.mono_db, 99].min.round} dB in mono: left and right cancel." }
        end
      end
    end
  end
end
