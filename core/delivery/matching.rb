# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # Finds the track for each imported recording: by its words, or by its leading number if the words say nothing.
    class Matching
      # What a recording can belong to: a track with its title, all that it is called by (Name), and its lanes.
      Target = Value.define(:number, :title, :names, :lanes)
      # A recording's track, or nil, and how sure that is: 0 to 1.
      Found = Value.define(:target, :score)
      # Below this it is not a match; from SURE on nobody has to look.
      LEAST = 0.5
      SURE = 0.85

      # @param show [Settings::Show]
      # @return [Array<Target>] every used track with its title, its own name and the names of its channels
      def self.targets(show)
        show.tracks.values.select(&:used?).map do |track|
          channels = track.inputs.filter_map { |lane| show.sends[lane]&.source }.filter_map { |base| show.channel_at(base) }
          names = [show.title_of(track), track.name, *channels.flat_map { |channel| [channel.name, channel.short] }]
          Target.new(number: track.number, title: show.title_of(track), names: names.reject(&:empty?).uniq.map { |name| Name.of(name) }, lanes: track.width)
        end
      end

      # @param recordings [Array<#names>]   @param targets [Array<Target>]
      # @return [Hash{#names=>Found}] compared by identity; each target is used once, the best pairs first
      def self.pairs(recordings, targets)
        scores = recordings.product(targets).map { |one, target| [best(one.names, target), one, target] }.select { |score, _, _| score >= LEAST }
        taken = {}.compare_by_identity
        found = {}.compare_by_identity
        recordings.each { |one| found[one] = Found.new(target: nil, score: 0.0) }
        scores.sort_by { |score, _, _| -score }.each do |score, one, target|
          next if found[one].target || taken[target]

          taken[target] = true
          found[one] = Found.new(target: target, score: score.clamp(0, 1))
        end
        found
      end

      # @param names [Array<Name>]
      # @return [Float] the best score among the names
      def self.best(names, target) = names.map { |name| score(name, target) }.max || 0.0

      # @return [Float] 0 to 1, and slightly more if the leading number is the track's number too
      def self.score(name, target)
        by_words = target.names.map { |called| likeness(name, called) }.max || 0.0
        return by_words unless name.number == target.number

        # It says a little on its own, and settles what words leave open.
        [by_words + 0.05, name.words.empty? ? 0.6 : 0.0].max
      end

      class << self
        private

        # The share of words that both have, each by its likeness; another side is another source.
        def likeness(name, called)
          return 0.0 if name.side && called.side && name.side != called.side
          return 1.0 if name.stem == called.stem && name.part == called.part

          mine, theirs = name.all_words, called.all_words
          return 0.0 if mine.empty? || theirs.empty? || other_number?(mine, theirs)

          matched = mine.sum { |word| theirs.map { |other| word_likeness(word, other) }.max }
          (2 * matched / (mine.size + theirs.size)).clamp(0, 1)
        end

        def other_number?(mine, theirs) = numbers(mine) != numbers(theirs) && [mine, theirs].none? { |words| numbers(words).empty? }
        def numbers(words) = words.grep(/\A\d+\z/)

        def word_likeness(one, other)
          return 1.0 if one == other
          return 0.0 if [one, other].any? { |word| word.match?(/\d/) }

          short, long = [one, other].sort_by(&:size)
          return 0.85 if short.size >= 3 && long.start_with?(short)
          return 0.85 if short.size >= 4 && (distance(short, long) <= 1 || short.chars.sort == long.chars.sort) # a letter wrong, or two swapped

          0.0
        end

        # Levenshtein's distance.
        def distance(one, other)
          row = (0..other.size).to_a
          one.each_char.with_index(1) do |char, at|
            before, row[0] = row[0], at
            other.each_char.with_index(1) do |letter, place|
              before, row[place] = row[place], [row[place] + 1, row[place - 1] + 1, before + (char == letter ? 0 : 1)].min
            end
          end
          row.last
        end
      end
    end
  end
end
