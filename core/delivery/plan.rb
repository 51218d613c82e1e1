# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # The result of a scan: which files belong together, the track and start of each recording, and remarks.
    class Plan
      # Rates that are believed; what claims another is not sound.
      RATES = Formats::TakeManifest::RATES
      # Times of day are believed as long as all recordings begin within this (seconds).
      SPREAD = 24 * 3600
      # One recording. target: a track's number or nil; offset and frames at the show's rate; notes: what will be done to it; warnings: what
      # does not fit, with its name; both as sentences
      Item = Value.define(:recording, :target, :score, :offset, :frames, :notes, :warnings) do
        def title = recording.title
        def sounds = recording.sounds
        def lanes = recording.lanes
      end

      # @param sounds [Array<Sound>]   @param show [Settings::Show]
      # @return [Array<Item>] in the order of their names
      def self.of(sounds, show) = new(show).proposed(sounds)

      # @param show [Settings::Show]
      def initialize(show)
        @show, @rate = show, show.rate
        @targets = Matching.targets(show)
      end

      # @param sounds [Array<Sound>]
      # @return [Array<Item>]
      def proposed(sounds)
        recordings, found = understood(sounds)
        start = common_start(recordings)
        items = recordings.map { |one| item(one, found[one].target&.number, found[one].score, start && one.begins(@rate) ? one.begins(@rate) - start : 0) }
        remarked(items, @apart ? ["the times in the files are too far apart; all start together"] : [])
      end

      # @param choices [Array<Array(Recording, Integer, Integer)>] recording, track (or nil) and offset in samples at the show's rate
      # @return [Array<Item>]
      def arranged(choices)
        remarked(choices.map { |recording, track, offset| item(recording, track, 1.0, offset) })
      end

      private

      def item(recording, track, score, offset)
        Item.new(recording: recording, target: track, score: score, offset: offset, frames: recording.frames(@rate), notes: [], warnings: [])
      end

      # By their names as they are, or without the words that all of them have: whatever says more.
      def understood(sounds)
        front, back = CommonWords.of(sounds.map { |sound| File.basename(sound.path, ".*") })
        shorter = sounds.map { |sound| sound.with(name: Name.parse(sound.path, front: front, back: back)) }
        [sounds, shorter].uniq.map { |named| matched(named) }.max_by.with_index { |(_, found), at| [found.each_value.sum(&:score).round(3), -at] }
      end

      def matched(sounds)
        recordings = Grouping.new(@targets).recordings(sounds)
        [recordings, Matching.pairs(recordings, @targets)]
      end

      # Where the first begins of those that tell their time, when it can be true; the others start with it.
      def common_start(recordings)
        starts = recordings.filter_map { |one| one.begins(@rate) }
        return if starts.empty?

        @apart = starts.max - starts.min > SPREAD * @rate
        @apart ? nil : starts.min
      end

      def remarked(items, more = [])
        ends = items.map { |one| one.offset + one.frames }
        usual, timed = usual(ends), items.any? { |item| item.recording.begins(@rate) }
        items.map do |item|
          remarks = Remarks.new(item, @targets.find { |target| target.number == item.target }, @rate)
          item.with(notes: remarks.notes(ends.max, usual) + (more.empty? ? remarks.time(timed) : more), warnings: remarks.warnings(usual))
        end
      end

      # Where half of them or more end, to a second.
      def usual(ends)
        group = ends.group_by { |at| (at / @rate.to_f).round }.values.max_by(&:size).to_a
        group.max if group.size > 1 && group.size * 2 >= ends.size
      end
    end
  end
end
