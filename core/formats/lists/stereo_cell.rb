# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Both sides of a stereo source in one cell of an input list: "Keys L/R", "Strings (st.)", "13/14", "A-13/14", "B-05/06". How people write
    # them is common practice, no published source.
    module StereoCell
      AND = "(?:[-–/+&,]|and|und|et|e|y|en|och)"
      SIDES = [%w[l r], %w[li re], %w[left right], %w[links rechts], %w[g d], %w[gauche droite], %w[izq der], %w[izquierda derecha], %w[sx dx], %w[vänster höger]].freeze
      BOTH = SIDES.map { |left, right| "#{left}\\.?\\s*#{AND}\\s*#{right}\\.?" }.join("|")
      NAME = /[\s_\-–.,:]*(?:\((?:#{BOTH}|lr|st\.?|stereo|stéréo|estéreo|stereofon\w*)\)|(?<=[\s_\-–.,:])(?:#{BOTH}|st\.|stereo|stéréo|estéreo)|(?<=\s)(?-i:LR))\s*\z/i
      # "Keys L / Keys R"
      TWICE = %r{\A(?<base>.+?)[\s_-]+l\s*[/&+]\s*\k<base>[\s_-]+r\z}i
      RANGE = /\A(?<before>.*?)(?<first>\d+)\s*#{AND}\s*(?<again>.*?)(?<last>\d+)\s*\z/i
      # A longer text is neither a name nor a number, and is not searched.
      LONGEST = 200
      private_constant :LONGEST, :AND, :SIDES, :BOTH, :NAME, :TWICE, :RANGE

      class << self
        # @param text [String] a source's name
        # @return [String, nil] the name without its sides, or nil for one that names no two sides
        def base(text)
          return if text.length > LONGEST
          return TWICE.match(text)[:base] if TWICE.match?(text)

          text.match?(NAME) ? text.sub(NAME, "").strip.then { |rest| rest unless rest.empty? } : nil
        end

        # @param text [String] one or two numbers with what stands before them
        # @return [Array(String, Integer, Integer), nil] what stands before the first number, and both; nil for a single number
        def range(text)
          found = (RANGE.match(text) if text.length <= LONGEST) or return
          again = plain(found[:again])
          return unless again.empty? || again == plain(found[:before])

          [found[:before].sub(/[-–\s]+\z/, ""), found[:first].to_i, found[:last].to_i]
        end

        # @return [Boolean] whether a cell names two sockets of different kinds or boxes ("A 16 / B 1")
        def split?(text) = text.length <= LONGEST && RANGE.match?(text) && range(text).nil?

        private

        def plain(text) = text.downcase.gsub(/[^[:alnum:]]+/, "")
      end
    end
  end
end
