# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # A file name as people really write it, taken apart: its words, a leading number, the number of a part, and the side of a pair.
    #   words   without numbering, sides and words that say nothing          number   in front ("07 Tuba"), or nil
    #   part    behind ("Tuba-0002", "Tuba part 2"), or nil                  sure     whether the part is written as one: :words, :zeros ("-02") or nil
    #   side    :left, :right or nil                                         stem     the name without its part
    #   text    for people: as it was written, without the words that all of them have
    Name = Value.define(:words, :number, :part, :sure, :side, :stem, :text) do
      # @param file [String] file name, with or without folder and extension
      # @param front [Integer] words to drop at the start   @param back [Integer] words to drop at the end
      # @return [Name]
      def self.parse(file, front: 0, back: 0) = of(File.basename(file, ".*"), front: front, back: back)

      # @param text [String]
      # @return [Name]
      def self.of(text, front: 0, back: 0)
        tokens = NameWords.tokens(text)
        plain, part, sure = NameParts.split(tokens[front, [tokens.size - front - back, 0].max].to_a.join(" "))
        number = plain[/\A(\d{1,3})(?= \D|\z)/, 1]&.to_i
        tokens = plain.sub(number ? /\A\d+ ?/ : "", "").split
        new(words: NameWords.of(tokens), number: number, part: part, sure: sure, side: NameWords.side(tokens), stem: plain, text: NameWords.between(text, front, back))
      end

      # @return [Name] without the part number: the name all parts share
      def whole = part ? with(part: nil, sure: nil, text: NameParts.without(text, part)) : self

      # @return [Name] without left or right: the name both sides share
      def without_side = side ? with(side: nil, text: NameWords.without_side(text)) : self

      # @param lane [Integer] from 0   @param lanes [Integer] of the file   @return [Name] of that lane
      def beside(lane, lanes) = lanes == 2 ? with(side: %i[left right][lane], text: "#{text} #{%w[L R][lane]}") : with(text: "#{text} #{lane + 1}")

      # A trailing number that may not be a part number counts as a word of the name: "cornet 2".
      # @return [Array<String>]
      def all_words = words + (part && sure != :words ? [part.to_s] : [])
    end
  end
end
