# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # What would become of delivered files: which belong together as parts of one recording, to which track each goes, where it
    # begins, and what does not fit.
    class Plan
      # Rates that are believed; what claims another is no sound.
      RATES = Formats::TakeManifest::RATES
      # Times of day are believed as long as all recordings begin within this (seconds).
      SPREAD = 24 * 3600
      # A file as it was looked at. frames and rate are its own; time_reference samples since midnight, or nil
      Sound = Value.define(:path, :name, :rate, :lanes, :frames, :codec, :time_reference)
      # One recording. sounds: its parts in order; target: a track's number or nil; offset and frames at the show's rate;
      # notes: what will be done to it, as sentences
      Item = Value.define(:sounds, :target, :score, :offset, :frames, :lanes, :notes) do
        def title = sounds.first.name.stem
      end

      # @param sounds [Array<Sound>]
      # @param show [Settings::Show]
      # @return [Array<Item>] in the order of their names
      def self.of(sounds, show) = new(sounds, show).items

      def initialize(sounds, show)
        @sounds, @show, @rate = sounds, show, show.rate
        @targets = Matching.targets(show)
      end

      def items
        groups = grouped
        found = Matching.pairs(groups.map { |group| group.first.name }, @targets)
        start = common_start(groups)
        made = groups.map { |group| item(group, found[group.first.name], start ? begins(group) - start : 0) }
        made = made.map { |one| one.with(notes: one.notes + ["the times in the files lie too far apart, and all begin together"]) } if @apart
        longest = made.map { |one| one.offset + one.frames }.max
        made.map { |one| with_length_note(one, longest) }
      end

      private

      # Files whose names differ in the number of the part alone. "Cornet 1" and "Cornet 2" are no parts where the show has both.
      def grouped
        @sounds.group_by { |sound| [sound.name.stem, sound.name.number] }.values.flat_map do |group|
          parts = group.size > 1 && group.all? { |sound| sound.name.part } && (group.all? { |sound| sound.name.sure } || !named?(group))
          parts ? [group.sort_by { |sound| sound.name.part }] : group.map { |sound| [sound] }
        end.sort_by { |group| File.basename(group.first.path).downcase }
      end

      # Whether each of them is called like a track of its own.
      def named?(group)
        group.all? { |sound| @targets.map { |target| Matching.score(sound.name, target) }.max.to_f >= Matching::SURE }
      end

      # Where the first begins, when all tell their time and it can be true.
      def common_start(groups)
        starts = groups.map { |group| begins(group) }
        return if starts.any?(&:nil?)

        @apart = starts.max - starts.min > SPREAD * @rate
        @apart ? nil : starts.min
      end

      # Where a recording begins at the show's rate, by its own time; nil when it tells none.
      def begins(group) = group.first.time_reference&.then { |samples| at_rate(samples, group.first.rate) }

      def item(group, found, offset)
        Item.new(sounds: group, target: found.target&.number, score: found.score, offset: offset, frames: group.sum { |sound| at_rate(sound.frames, sound.rate) },
                 lanes: group.map(&:lanes).max.clamp(1, 2), notes: notes(group, found))
      end

      def notes(group, found)
        rates = group.map(&:rate).uniq - [@rate]
        [rates.empty? ? nil : "#{rates.map { |rate| "#{rate / 1000.0} kHz" }.join(' and ')} becomes #{@rate / 1000.0} kHz",
         group.size > 1 ? "#{group.size} parts are put one behind the other" : nil,
         group.map(&:lanes).max > 2 ? "of #{group.map(&:lanes).max} channels the first two are taken" : nil,
         found.target.nil? ? "no track is called like this" : nil,
         found.target && found.score < Matching::SURE ? "a guess: look whether it is right" : nil].compact
      end

      def with_length_note(item, longest)
        short = longest - item.offset - item.frames
        return item if short < @rate / 2

        item.with(notes: item.notes + ["ends #{format('%.1f', short / @rate.to_f)} s before the longest; silence follows"])
      end

      def at_rate(frames, rate) = (frames * @rate / rate.to_f).round
    end
  end
end
