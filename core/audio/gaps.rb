# frozen_string_literal: true

module Loomshuttle
  module Audio
    # Gaps in a take. A take keeps a list for each stream as they were found; people want to know when there was silence, and on which lanes.
    module Gaps
      # @param gaps [Array<Hash>] "at" and "frames" in samples, "lanes" first and last (1-based)
      # @return [Array<Hash>] gaps that touch in time joined, in order: "at", "frames", and "lanes" as ranges, ascending
      def self.in_time(gaps)
        gaps.sort_by { |gap| gap["at"] }.each_with_object([]) do |gap, whole|
          last = whole.last
          next whole << gap.merge("lanes" => [gap["lanes"]]) unless last && gap["at"] <= last["at"] + last["frames"]

          last["frames"] = [last["frames"], gap["at"] + gap["frames"] - last["at"]].max
          last["lanes"] = ranges(last["lanes"] + [gap["lanes"]])
        end
      end

      # Joins neighbouring lanes.
      def self.ranges(list)
        list.sort.each_with_object([]) do |(first, last), all|
          all.any? && first <= all.last[1] + 1 ? all[-1] = [all[-1][0], [all[-1][1], last].max] : all << [first, last]
        end
      end
      private_class_method :ranges
    end
  end
end
