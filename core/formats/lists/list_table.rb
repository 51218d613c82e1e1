# frozen_string_literal: true

module Loomshuttle
  module Formats
    # The rows of an input list, and the meaning of each column. fields: a key of InputList::HEADERS for each column, or nil.
    class ListTable
      # A row with one text of more characters than this is a note.
      LONG = 60
      FRAMED = /\A[=*#_–—-]{2,}|:\z/
      private_constant :LONG, :FRAMED

      attr_reader :header, :fields
      # @return [Integer] the header's line in the file, from 1 on
      attr_reader :line

      class << self
        # The header is the first row near the top that names a source; else the first row that is not empty.
        # @param rows [Array<Array<String, nil>>]   @param known [Hash{String=>String}] as InputList.read has it
        # @param line [Integer, nil] the header's line, where a person has chosen it
        # @return [ListTable]
        # @raise [Invalid] if the list has no such line
        def of(rows, known, line = nil)
          raise Invalid.new("The list has #{rows.size} lines, so line #{line} cannot be its header.", where: "header") unless line.nil? || line.between?(1, rows.size)

          at = line ? line - 1 : guess(rows, known)
          new(rows[at] || [], fields(rows[at] || [], known), rows.drop(at + 1), at + 1)
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

        def guess(rows, known)
          top = rows.first(InputList::TOP)
          top.index { |row| fields(row, known).include?(:name) && fields(row, known).compact.size > 1 } || top.index { |row| fields(row, known).include?(:name) } ||
            top.index { |row| row.any? { |cell| !cell.to_s.strip.empty? } } || 0
        end

        def field(word, known, taken, found)
          return InputList::HEADERS.keys.find { |one| one.to_s == known[word] && !found.include?(one) } if known.key?(word)

          InputList::HEADERS.find { |one, words| words.include?(word) && !found.include?(one) && !taken.include?(one.to_s) }&.first
        end
      end

      # @return [Array<Array(Array, Integer)>] the rows that are not empty, each with its line number
      attr_reader :rows

      def initialize(header, fields, rows, line)
        @header, @fields, @line = header.map { |word| word.to_s.strip }, fields, line
        @rows = rows.each.with_index(line + 1).reject { |row, _| row.all? { |cell| cell.to_s.strip.empty? } }
      end

      # @param known [Hash{String=>String}]
      # @return [Array<String>] headers that are neither recognised nor mapped by hand
      def unknown(known) = header.zip(fields).select { |word, field| field.nil? && !word.empty? && !known.key?(InputList.plain(word)) }.map(&:first)

      # @return [Hash{Symbol=>String, nil}] cell by field
      def cells(row) = fields.zip(row).reject { |field, _| field.nil? }.to_h

      # @return [Array<String>] cells of columns that tell nothing about the patch, and notes
      def others(row) = row.each_with_index.select { |_, at| [nil, :notes].include?(fields[at]) }.map { |cell, _| cell.to_s }

      # Titles of sections, merged cells across the row, notes below the list, and the header once more.
      # @return [Boolean] whether a row describes no source
      def title?(row)
        cells = row.map { |cell| cell.to_s.strip }
        return true if cells.first(header.size) == header

        there = cells.each_index.reject { |at| cells[at].empty? }
        return false unless fields.compact.size > 1 && there.any? && there.map { |at| cells[at] }.uniq.size == 1
        return true if there.size > 2 || cells[there.first].length > LONG

        there.size == 1 && loose?(fields[there.first], cells[there.first])
      end

      private

      # A single text: in the column of names only what looks like a title, for a source may have no more than its name.
      def loose?(field, text)
        case field
        when :name then text.match?(FRAMED) || (capitals?(text) && !mostly_capitals?)
        when nil, :notes then true
        when :channel then text.match?(/[[:alpha:]]{2}/)
        end
      end

      def capitals?(text) = text.length > 2 && text.match?(/[[:upper:]]/) && !text.match?(/[[:lower:]\d]/)

      def mostly_capitals?
        names = @rows.map { |row, _| row[fields.index(:name)].to_s.strip }.reject(&:empty?)
        @mostly_capitals = names.count { |name| capitals?(name) } * 2 > names.size if @mostly_capitals.nil?
        @mostly_capitals
      end
    end
  end
end
