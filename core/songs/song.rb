# frozen_string_literal: true

module Loomshuttle
  module Songs
    # A song as a frozen value. Its time is counted in samples from the beginning of its stems; bar 1 begins at `start`.
    #   map       Timing::TempoMap           frames    length in samples
    #   follows   what comes after it: "hand" waits for somebody, "on" goes on at once, "pause" after `pause` seconds
    #   loudness  integrated, in LUFS (EBU R 128), or nil        trim_db   what all stems are turned by
    #   notes     for oneself     crew   words for the crew
    Song = Value.define(:id, :version, :name, :dye, :rate, :frames, :start, :map, :sections, :stems, :click, :guide, :follows, :pause, :loudness, :trim_db, :notes,
                        :crew)

    class Song
      # @return [Array<Section>] its sections, or a single one for the whole song
      def parts = sections.empty? ? [Section.new(key: 0, name: name, dye: dye, bar: 1, shift: 0, click: true, words: "")] : sections

      # @param section [Section]
      # @return [Integer] sample at which it begins; the first begins with the song
      def begins(section)
        first?(section) ? lead : (start + map.sample(map.bar(section.bar)) + section.shift).clamp(0, frames)
      end

      # @return [Integer] sample after its last one
      def ends(section)
        after = parts[parts.index(section) + 1]
        after ? begins(after) : frames
      end

      # @return [Integer] sample at which playing begins; negative if the count-in starts before the stems
      def lead = [0, start - count_in].min

      # @return [Integer] length of the count-in in samples
      def count_in
        return 0 unless click.on && click.stem.nil?

        (click.count_in * map.meters.first.quarters * 60 / map.tempos.first.bpm * rate).round
      end

      # @param sample [Integer]
      # @return [Section] the section at that sample
      def section_at(sample) = parts.reverse_each.find { |one| begins(one) <= sample } || parts.first

      # @param key [Integer]   @return [Section, nil]
      def section(key) = parts.find { |one| one.key == key }

      # @param id [Integer]   @return [Stem, nil]
      def stem(id) = stems.find { |one| one.id == id }

      # @return [Float] seconds
      def seconds = frames.fdiv(rate)

      # @param sample [Integer]
      # @return [Array(Integer, Numeric)] bar and beat, both from 1; bars before the first are 0, -1, …
      def place(sample)
        late = sample - start
        return map.place(map.quarter(late)) unless late.negative?

        meter, bpm = map.meters.first, map.tempos.first.bpm
        bars, rest = (Rational(late, rate) * bpm / 60).divmod(meter.quarters)
        [1 + bars, 1 + (rest / meter.beat)]
      end

      private

      def first?(section) = section.key == parts.first.key
    end
  end
end
