# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # A file's name as people really write it, taken apart: the words that say what it is, a number in front, a number of a part
    # behind, and the side of a pair.
    #   words   without numbering, sides and words that every file has     number   in front ("07 Tuba"), or nil
    #   part    behind ("Tuba-0002", "Tuba part 2"), or nil                  sure     whether the part is written as one
    #   side    :left, :right or nil                                        stem     the name without its part
    Name = Value.define(:words, :number, :part, :sure, :side, :stem) do
      # @param file [String] its name, with or without folder and ending
      # @return [Name]
      def self.parse(file)
        base = File.basename(file, ".*").unicode_normalize(:nfkd).gsub(/\p{Mn}/, "")
        plain = base.gsub(/(\p{Ll})(\p{Lu})/, '\1 \2').downcase.gsub(/[^\p{L}\p{N}]+/, " ").strip
        plain, part, sure = split_part(plain)
        number = plain[/\A(\d{1,3})(?= \D|\z)/, 1]&.to_i
        tokens = plain.sub(number ? /\A\d+ ?/ : "", "").split
        side = tokens.filter_map { |token| NameWords::SIDES[token] }.last
        words = tokens.reject { |token| NameWords::SIDES.key?(token) }.flat_map { |token| expand(token) } - NameWords::EMPTY
        new(words: words, number: number, part: part, sure: sure, side: side, stem: plain)
      end

      # "tuba part 2", "tuba 0002", "tuba 2 of 3": parts for sure; "cornet 2": perhaps.
      def self.split_part(plain)
        return [$`.strip, Regexp.last_match(1).to_i, true] if plain =~ /(?: (?:part|pt|p|teil|seg|split) ?)(\d{1,3})(?: of \d+)?\z/
        return [$`.strip, Regexp.last_match(1).to_i, true] if plain =~ / (\d{3,5})\z/ || plain =~ / (\d{1,3}) of \d+\z/
        return [$`.strip, Regexp.last_match(1).to_i, false] if plain =~ / (\d{1,2})\z/

        [plain, nil, false]
      end

      # A word with a number at its end is both: "crn1" is cornet 1.
      def self.expand(token)
        letters, digits = token.match(/\A(\D+?)(\d*)\z/)&.captures
        return [token] unless letters

        NameWords::SHORT.fetch(letters, letters).split + (digits.empty? ? [] : [digits.to_i.to_s])
      end
      private_class_method :split_part, :expand
    end
  end
end
