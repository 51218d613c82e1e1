# frozen_string_literal: true

module Loomshuttle
  module Delivery
    # Words in the names of files (common practice, no published source).
    module NameWords
      # Those that say nothing about the source.
      EMPTY = %w[audio track trk take ch channel wav aif aiff flac mp3 mono stereo final master raw rec recording bounce export file input in line edit mix
                 the a of and].freeze
      # Dates, times, rates and word lengths.
      SAYS_NOTHING = /\A(?:\d{6,14}|\d{2,3}k(?:hz)?|(?:16|24|32)(?:b|bit)|\d{4,6}hz)\z/
      # What sources are called for short, and their full words.
      SHORT = { "vox" => "voice", "voc" => "voice", "vocal" => "voice", "vocals" => "voice", "vcl" => "voice", "gtr" => "guitar", "git" => "guitar", "bs" => "bass",
                "acc" => "accordion", "dr" => "drum", "bd" => "bass drum", "kick" => "bass drum", "kik" => "bass drum", "snare" => "side drum", "sd" => "side drum",
                "sn" => "side drum", "cym" => "cymbals", "oh" => "overhead", "tpt" => "trumpet", "tbn" => "trombone", "trb" => "trombone", "crn" => "cornet",
                "vln" => "fiddle", "violin" => "fiddle", "vla" => "viola", "amb" => "ambience", "pno" => "piano", "keys" => "keyboard", "perc" => "percussion" }.freeze
      SIDES = { "l" => :left, "left" => :left, "lt" => :left, "r" => :right, "right" => :right, "rt" => :right }.freeze

      # What a browser or a file manager adds to a second copy of a name that ends in a number: "Cornet 2 (1)".
      COPY = /(?<=\d) ?\(\d+\)\z/

      # A word or number as it stands in a text, as #tokens takes it apart.
      WORD = /[\p{L}\p{N}\p{Mn}](?:(?!(?<=\p{Ll})\p{Lu})[\p{L}\p{N}\p{Mn}])*/

      class << self
        # @param text [String]
        # @return [Array<String>] words and numbers in lower case, without accents
        def tokens(text)
          text.sub(COPY, "").unicode_normalize(:nfkd).gsub(/\p{Mn}/, "").gsub(/(\p{Ll})(\p{Lu})/, '\1 \2').downcase.gsub(/[^\p{L}\p{N}]+/, " ").split
        end

        # @param text [String]   @param front [Integer] words to drop at the start   @param back [Integer] words to drop at the end
        # @return [String] the rest, as written
        def between(text, front, back)
          return text if front.zero? && back.zero?

          once = text.sub(COPY, "")
          places = once.to_enum(:scan, WORD).map { Regexp.last_match.offset(0) }
          left = places[front, [places.size - front - back, 0].max].to_a
          left.empty? ? text : once[left.first.first...left.last.last]
        end

        # @param tokens [Array<String>]
        # @return [Array<String>] the words that identify a source, each once
        def of(tokens) = tokens.reject { |token| SAYS_NOTHING.match?(token) || SIDES.key?(token) }.flat_map { |token| expand(token) }.uniq - EMPTY

        # @return [Symbol, nil] :left or :right
        def side(tokens) = tokens.filter_map { |token| SIDES[token] }.last

        # @param text [String]   @return [String] without a trailing word for left or right
        def without_side(text) = SIDES.key?(text[/[[:alpha:]]+\z/].to_s.downcase) ? text.sub(/[^[:alnum:]]*[[:alpha:]]+\z/, "") : text

        private

        # A word with a number at its end is both: "crn1" is cornet 1.
        def expand(token)
          letters, digits = token.match(/\A(\D+?)(\d*)\z/)&.captures
          return [token] unless letters

          SHORT.fetch(letters, letters).split + (digits.empty? ? [] : [digits.to_i.to_s])
        end
      end
    end
  end
end
