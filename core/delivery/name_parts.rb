# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # The number of a part at the end of a name.
    module NameParts
      WORDS = /(?i:part|pt|p|teil|seg|split)/
      # "tuba part 2", "tuba 0002", "tuba 2 of 3", "tuba 02": parts for sure; "cornet 2": perhaps.
      FORMS = [[/(?: #{WORDS} ?)(\d{1,3})(?: of \d+)?\z/, :words], [/ (\d{3,5})\z/, :words], [/ (\d{1,3}) of \d+\z/, :words], [/ (0\d)\z/, :zeros],
               [/ (\d{1,2})\z/, nil]].freeze

      # @param plain [String] words in lower case
      # @return [Array(String, Integer, Symbol)] the text before it, the part number or nil, and how it is written
      def self.split(plain)
        FORMS.each { |form, sure| form.match(plain)&.then { |found| return [found.pre_match.strip, found[1].to_i, sure] } }
        [plain, nil, nil]
      end

      # @param text [String] as written   @param part [Integer] the number at its end   @return [String] without that number
      def self.without(text, part)
        shorter = text.sub(/(?:(?:[^[:alnum:]]+|(?<=\p{Ll})(?=\p{Lu}))#{WORDS})?[^[:alnum:]]*(?<!\d)0*#{part}(?:[^[:alnum:]]+(?i:of)[^[:alnum:]]+\d+)?[^[:alnum:]]*\z/, "")
        shorter.empty? ? text : shorter
      end
    end
  end
end
