# frozen_string_literal: true

module Loomshuttle
  # A parsed JSON document whose values can all be kept: text as Text has it, numbers that are finite and in range, lists of bounded size.
  # What a document means is checked by who takes it.
  module Document
    # Items of a list or an object.
    ITEMS = 50_000
    TEXT = 4 << 20
    NAME = 1000

    class << self
      # @param value [Object] parsed JSON   @param where [String] what it is, for the error message
      # @return [Object] the same value with all text in Unicode's normal form C
      # @raise [Invalid]
      def keep(value, where)
        case value
        when String then Text.keep(value, where, most: TEXT)
        when Integer then value.abs <= Shape::LARGEST ? value : refuse(where, "is a number beyond what can be kept")
        when Float then value.finite? && value.abs <= 1e15 ? value : refuse(where, "is a number beyond what can be kept")
        when Array then whole(value, where).each_with_index.map { |one, at| keep(one, "#{where}/#{at}") }
        when Hash then whole(value, where).to_h { |key, one| [Text.keep(key, where, most: NAME, lines: false), keep(one, "#{where}/#{Text.readable(key, most: 60)}")] }
        else value
        end
      end

      private

      def whole(list, where) = list.size <= ITEMS ? list : refuse(where, "has #{list.size} items; the limit is #{ITEMS}")
      def refuse(where, why) = raise(Invalid.new("#{where} #{why}.", where: where))
    end
  end
end
