# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # Groups files that belong together: parts of one recording, channels of one file that are separate sources, and left and right.
    class Grouping
      # @param targets [Array<Matching::Target>]
      def initialize(targets)
        @targets = targets
      end

      # @param sounds [Array<Sound>]
      # @return [Array<Recording>] in the order of their names
      def recordings(sounds)
        apart = parts(sounds).flat_map { |group| by_lanes(Recording.of(group)) }
        sides(apart).sort_by { |one| [File.basename(one.first.path).downcase, one.pieces.first.first.lane.to_i] }
      end

      private

      # Files whose names differ in the number of the part alone.
      def parts(sounds)
        sounds.group_by { |sound| [sound.name.stem, sound.name.number, sound.called] }.values.flat_map do |group|
          row?(group.map(&:name)) ? [group.sort_by { |sound| sound.name.part }] : group.map { |sound| [sound] }
        end
      end

      # "Cornet 1" and "Cornet 2" are not parts where the show has both; "Cornet 3" and "Cornet 7" are none at all.
      def row?(names)
        numbers = names.filter_map(&:part).sort
        return false unless names.size > 1 && numbers.uniq.size == names.size
        return true if names.all? { |name| name.sure == :words }

        numbers.first <= 1 && numbers == (numbers.first..numbers.last).to_a && !each_its_own?(names)
      end

      def each_its_own?(names)
        own = names.map { |name| @targets.find { |target| target.names.any? { |called| called.all_words.include?(name.part.to_s) } && Matching.score(name, target) >= Matching::SURE } }
        own.none?(&:nil?) && own.uniq.size == own.size
      end

      # A file of several sources tells their names.
      # @return [Array<Recording>]
      def by_lanes(one)
        called = one.first.called.map { |name| Name.of(name) }
        return halves(one) unless called.size == one.first.lanes && called.size > 1 && one.names.size == 1

        called.each_with_index.map { |name, lane| one.lane(lane, name) }
      end

      # A stereo file, where the show has a track for each side and none for both.
      # @return [Array<Recording>]
      def halves(one)
        return [one] unless one.sounds.all? { |sound| sound.lanes == 2 }

        sides = [0, 1].map { |lane| one.names.map { |name| name.beside(lane, 2) } }
        return [one] if sure?(one.names, stereo) || !sides.all? { |names| sure?(names, of_side(names.first.side)) }

        sides.each_with_index.map { |names, lane| one.lane(lane, names.last) }
      end

      def stereo = @stereo ||= @targets.select { |target| target.lanes == 2 }
      def mono = @mono ||= @targets - stereo
      def of_side(side) = mono.select { |target| target.names.any? { |called| called.side == side } }
      def sure?(names, targets) = best(names, targets) >= Matching::SURE

      # Mono files of two sides, where the show has a stereo track for both.
      def sides(recordings)
        recordings.group_by { |one| one.lanes == 1 && one.names.last.side ? [one.names.last.words, one.pieces.size] : one.object_id }.values.flat_map do |group|
          pair?(group) ? [joined(*group.sort_by { |one| one.names.last.side })] : group
        end
      end

      def pair?(group)
        return false unless group.size == 2 && group.map { |one| one.names.last.side }.tally == { left: 1, right: 1 }

        whole = best(both(group.first), stereo)
        whole >= Matching::LEAST && whole > group.map { |one| best(one.names, mono) }.min - 0.05
      end

      def joined(left, right)
        left.with(pieces: left.pieces.zip(right.pieces).map { |one, other| one + other }, names: both(left))
      end

      def both(one) = one.names.map(&:without_side)

      # @return [Float]
      def best(names, targets) = targets.map { |target| Matching.best(names, target) }.max || 0.0
    end
  end
end
