# frozen_string_literal: true

module Loomshuttle
  module Songs
    # What the spoken guide says and when: the name of each section, then the beats of the bar before it. The last one falls on the beat before the
    # section.
    module Cues
      # words; at: sample where they begin, or where they have to be over (ends)
      Cue = Value.define(:words, :at, :ends)
      # Counted by these, in languages that are known; others are left to the voice, as figures.
      COUNT = { "en" => %w[one two three four five six seven eight nine ten eleven twelve], "de" => %w[eins zwei drei vier fünf sechs sieben acht neun zehn elf zwölf],
                "fr" => %w[un deux trois quatre cinq six sept huit neuf dix onze douze], "es" => %w[uno dos tres cuatro cinco seis siete ocho nueve diez once doce] }.freeze

      class << self
        # @param song [Song]
        # @return [Array<Cue>]
        def of(song)
          return [] unless song.guide.on

          song.parts.flat_map.with_index { |section, nth| before(song, section, nth) }
        end

        private

        # The first section is announced where it is counted in.
        def before(song, section, nth)
          return [] if nth.zero? && (song.click.count_in.zero? || song.count_in.zero?)

          start = nth.zero? ? song.start : song.begins(section)
          beats = beats_before(song, start)
          counted = song.guide.count ? beats.drop(1) : []
          said = section.words.empty? ? section.name : section.words
          [Cue.new(words: said, at: nil, ends: counted.any? ? counted.first.last : start)] + counted.map { |number, at| Cue.new(words: count(song, number), at: at, ends: nil) }
        end

        # Beats of the bar before a place: number and sample.
        # @return [Array<Array(Integer, Integer)>]
        def beats_before(song, start)
          bar = song.place(start - 1).first.floor
          meter = song.map.meter([bar, 1].max)
          return in_song(song, bar, meter) if bar >= 1

          beat = (meter.beat * 60 / song.map.tempos.first.bpm * song.rate)
          (1..meter.beats).map { |number| [number, (song.start - (beat * (meter.beats + 1 - number))).round] }
        end

        def in_song(song, bar, meter) = (1..meter.beats).map { |number| [number, song.start + song.map.sample(song.map.bar(bar) + ((number - 1) * meter.beat))] }

        def count(song, number) = COUNT.fetch(song.guide.voice[/\A[a-z]+/], [])[number - 1] || number.to_s
      end
    end
  end
end
