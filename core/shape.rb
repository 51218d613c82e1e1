# frozen_string_literal: true

module Loomshuttle
  # What comes in from outside is checked once, at its door: a shape says what a value must be, takes nothing for something else ("1" is
  # no number), and gives back what may be kept. For files, JSON-RPC and OSC; HTTP has the contract (web/openapi.json).
  module Shape
    # Whole numbers that JSON, a browser and PostgreSQL's bigint all hold.
    LARGEST = (1 << 53) - 1

    # One shape: `check` gives the value to keep, or raises Invalid with the place and a sentence.
    Kind = Struct.new(:rule) do
      # @param value [Object]   @param where [String] what it is, for the error message
      # @raise [Invalid]
      def check(value, where = "value") = rule.call(value, where)
    end

    class << self
      # @param most [Integer] longest text, in characters   @param lines [Boolean] whether line breaks and tabs may be in it
      def text(most: 200, least: 0, pattern: nil, lines: false)
        kind do |value, where|
          kept = Text.keep(value, where, most: most, lines: lines)
          refuse(where, "needs #{least} characters or more") if kept.strip.length < least
          refuse(where, "does not look like #{pattern.source}") if pattern && !kept.match?(pattern)
          kept
        end
      end

      # @param range [Range] of whole numbers
      def whole(range = -LARGEST..LARGEST)
        kind { |value, where| value.is_a?(Integer) && range.cover?(value) ? value : refuse(where, "must be a whole number from #{range.min} to #{range.max}") }
      end

      # @param range [Range] of finite numbers
      def number(range)
        kind do |value, where|
          fits = (value.is_a?(Integer) || value.is_a?(Float)) && (value.is_a?(Integer) || value.finite?) && range.cover?(value)
          fits ? value : refuse(where, "must be a number from #{range.begin} to #{range.end}")
        end
      end

      def boolean = kind { |value, where| [true, false].include?(value) ? value : refuse(where, "must be true or false") }
      def one_of(*known) = kind { |value, where| known.include?(value) ? value : refuse(where, "must be one of #{known.join(', ')}") }

      # @param other [Kind]
      def or_none(other) = kind { |value, where| value.nil? ? nil : other.check(value, where) }

      # Accepts what one of the kinds accepts; the first that does counts.
      # @param kinds [Array<Kind>]
      def any_of(*kinds)
        kind do |value, where|
          found = kinds.filter_map do |one|
            [one.check(value, where)]
          rescue Invalid
            nil
          end
          found.empty? ? refuse(where, "is not valid") : found.first.first
        end
      end

      # @param most [Integer] largest number of items
      def list(of, most:, least: 0)
        kind do |value, where|
          refuse(where, "must be a list") unless value.is_a?(Array)
          refuse(where, "has #{value.size} items; #{least} to #{most} are allowed") unless value.size.between?(least, most)
          value.each_with_index.map { |one, at| of.check(one, "#{where}/#{at}") }
        end
      end

      # A map from names to values of one kind.
      def map(of, most:)
        kind do |value, where|
          refuse(where, "must be an object") unless value.is_a?(Hash)
          refuse(where, "has #{value.size} entries; the limit is #{most}") if value.size > most
          value.to_h { |key, one| [Text.keep(key, where, most: 200), of.check(one, "#{where}/#{key}")] }
        end
      end

      # An object with given fields.
      # @param needed [Hash{String=>Kind}]   @param allowed [Hash{String=>Kind}]
      # @param others [Boolean] whether unknown fields (say, of a later version) are kept, or dropped
      def record(needed, allowed = {}, others: false)
        kind do |value, where|
          refuse(where, "must be an object") unless value.is_a?(Hash)
          lacking = needed.keys - value.keys
          refuse(where, "is missing #{lacking.join(', ')}") unless lacking.empty?
          kept = needed.merge(allowed).filter_map { |field, shape| [field, shape.check(value[field], "#{where}/#{field}")] if value.key?(field) }.to_h
          others ? value.merge(kept) : kept
        end
      end

      private

      def kind(&rule) = Kind.new(rule)
      def refuse(where, why) = raise(Invalid.new("#{where} #{why}.", where: where))
    end
  end
end
