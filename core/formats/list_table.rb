# frozen_string_literal: true

module Loomshuttle
  module Formats
    # The rows of an input list, and the meaning of each column. fields: a key of InputList::HEADERS for each column, or nil.
    class ListTable
      attr_reader :header, :fields

      class << self
        # The header is the first row near the top that names a source; else the first row that is not empty.
        # @param rows [Array<Array<String, nil>>]   @param known [Hash{String=>String}] as InputList.read has it
        # @return [ListTable]
        def of(rows, known)
          top = rows.first(InputList::TOP)
          at = top.index { |row| fields(row, known).include?(:name) && fields(row, known).compact.size > 1 } || top.index { |row| fields(row, known).include?(:name) } ||
               top.index { |row| row.any? { |cell| !cell.to_s.strip.empty? } } || 0
          new(rows[at] || [], fields(rows[at] || [], known), rows.drop(at + 1), at + 2)
        end

        # Gives each field to one column; an ambiguous header takes the field that no other column has.
        # @return [Array<Symbol, nil>]
        def fields(header, known)
          taken = known.values_at(*header.map { |word| InputList.plain(word) }).compact
          found = []
          header.each do |word|
            field = field(InputList.plain(word), known, taken, found)
            found << field
          end
          found
        end

        private

        def field(word, known, taken, found)
          return InputList::HEADERS.keys.find { |one| one.to_s == known[word] && !found.include?(one) } if known.key?(word)

          InputList::HEADERS.find { |one, words| words.include?(word) && !found.include?(one) && !taken.include?(one.to_s) }&.first
        end
      end

      def initialize(header, fields, rows, first)
        @header, @fields, @rows, @first = header.map { |word| word.to_s.strip }, fields, rows, first
      end

      # @return [Enumerator] over the rows that are not empty, each with its line number
      def rows = @rows.each.with_index(@first).reject { |row, _| row.all? { |cell| cell.to_s.strip.empty? } }.each

      # @param known [Hash{String=>String}]
      # @return [Array<String>] headers that are neither recognised nor mapped by hand
      def unknown(known) = header.zip(fields).select { |word, field| field.nil? && !word.empty? && !known.key?(InputList.plain(word)) }.map(&:first)
    end
  end
end
