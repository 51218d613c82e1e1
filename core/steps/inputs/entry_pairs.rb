# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Finds lines of an input list that are the two sides of one source: "Accordion L" and "Accordion R", "Keys-left" and "Keys-right", "OH (L)" and
    # "OH (R)".
    module EntryPairs
      LEFT, RIGHT = %r{[\s_\-./]+\(?(?:l|left|li|links)\)?\z|\((?:l|left)\)\z}i, %r{[\s_\-./]+\(?(?:r|right|re|rechts)\)?\z|\((?:r|right)\)\z}i
      private_constant :LEFT, :RIGHT

      class << self
        # @param entries [Array<Formats::InputList::Entry>]
        # @return [Hash{Formats::InputList::Entry=>Formats::InputList::Entry}] left => right
        def of(entries)
          rights = entries.select { |entry| entry.name.match?(RIGHT) }.group_by { |entry| base(entry, RIGHT) }
          entries.select { |entry| entry.name.match?(LEFT) }.to_h { |entry| [entry, rights[base(entry, LEFT)]&.shift] }.compact
        end

        # Each right side directly after its left one, wherever the list has it, so that what is free is given to both together.
        # @param pairs [Hash{Formats::InputList::Entry=>Formats::InputList::Entry}] left => right
        # @return [Array<Formats::InputList::Entry>]
        def in_turn(entries, pairs)
          lefts = pairs.invert
          entries.flat_map { |entry| lefts.key?(entry) ? [] : [entry, pairs[entry]].compact }
        end

        # @param channels [Hash{Formats::InputList::Entry=>Integer}]
        # @return [Array<Array(Formats::InputList::Entry, String)>] left sides whose channels cannot be paired, each with the reason
        def apart(show, pairs, channels)
          pairs.filter_map do |left, right|
            why = why(show, channels[left], channels[right]) or next
            [left, "#{left.name} and #{right.name} are on channels #{channels[left]} and #{channels[right]}, not a stereo pair: #{why}"]
          end
        end

        private

        def base(entry, side) = entry.name.sub(side, "").downcase

        def why(show, left, right)
          return if left.odd? && right == left + 1 && [left, right].all? { |number| show.profile.strip(number).width == 1 }

          "a pair is an odd channel and the next one, both mono"
        end
      end
    end
  end
end
