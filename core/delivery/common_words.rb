# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # Words that all file names begin or end with: the song, the date, the show, the take.
    module CommonWords
      # Of fewer names nothing is concluded.
      LEAST = 3

      # @param texts [Array<String>] names without folder and ending
      # @return [Array(Integer, Integer)] how many words at the start and at the end all names share; each name keeps at least one
      def self.of(texts)
        lists = texts.map { |text| NameWords.tokens(text) }.uniq
        return [0, 0] if lists.size < LEAST

        shortest = lists.map(&:size).min
        front = common(lists, shortest - 1)
        [front, common(lists.map(&:reverse), shortest - 1 - front)]
      end

      class << self
        private

        def common(lists, most) = (0...[most, 0].max).take_while { |at| lists.all? { |list| list[at] == lists.first[at] } }.size
      end
    end
  end
end
