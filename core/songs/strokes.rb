# frozen_string_literal: true

module Loomshuttle
  module Songs
    # All strokes of a song's click with its count-in, at samples of the song.
    module Strokes
      class << self
        # @param song [Song]
        # @return [Array<Timing::Click::Stroke>] in order; empty if the song has no generated click
        def of(song)
          return [] unless song.click.on && song.click.stem.nil?

          count_in(song) + in_song(song)
        end

        private

        def click(song) = Timing::Click.new(song.map, subdivision: song.click.subdivision, accents: song.click.accents)

        def in_song(song)
          silent = song.parts.reject(&:click).map { |section| song.begins(section)...song.ends(section) }
          click(song).strokes(1..).lazy.map { |stroke| stroke.with(sample: stroke.sample + song.start) }.take_while { |stroke| stroke.sample < song.frames }
            .reject { |stroke| silent.any? { |range| range.cover?(stroke.sample) } }.to_a
        end

        # As the first bar goes, in bars 0, -1, …, the last of them right before it; beats alone.
        def count_in(song)
          meter, bpm = song.map.meters.first, song.map.tempos.first.bpm
          plain = Timing::Click.new(Timing::TempoMap.new([Timing::TempoMap::Tempo.new(at: 0, bpm: bpm, ramp: false)], [meter], rate: song.rate), accents: song.click.accents)
          bars = song.click.count_in
          first = song.start - song.count_in
          (1..bars).flat_map { |bar| plain.of_bar(bar) }.map { |stroke| stroke.with(sample: stroke.sample + first, bar: stroke.bar - bars) }
        end
      end
    end
  end
end
