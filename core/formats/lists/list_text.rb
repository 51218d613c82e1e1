# frozen_string_literal: true

require "csv"

module Loomshuttle
  module Formats
    # A table as other programs write it: UTF-8, UTF-16 or Windows-1252, with or without a byte order mark, separated by commas, semicolons or tabs.
    module ListText
      MARKS = { "\xEF\xBB\xBF".b => "UTF-8", "\xFF\xFE".b => "UTF-16LE", "\xFE\xFF".b => "UTF-16BE" }.freeze
      # Bytes from which the encoding is guessed.
      GLANCE = 400
      FORMULA = /\A'*[=+\-@\t\r]/
      MARKED = /\A''*[=+\-@\t\r]/
      private_constant :MARKS, :GLANCE, :FORMULA, :MARKED

      class << self
        # @param bytes [String] content of a file
        # @return [String] UTF-8, lines end in LF
        # @raise [Invalid] when it is not text
        def decode(bytes)
          bytes = bytes.b
          mark = MARKS.keys.find { |one| bytes.start_with?(one) }
          text = as(bytes.byteslice((mark || "").bytesize..), mark ? MARKS[mark] : guess(bytes))
          raise Invalid.new("This is not text: it contains characters that lists never have.", where: "list") if text.match?(/[\x00-\x08\x0E-\x1A\x1C-\x1F]/)

          text.gsub(/\r\n?/, "\n")
        end

        # @param text [String] UTF-8
        # @return [Array<Array<String, nil>>]
        # @raise [Invalid] when it is not a table
        def rows(text)
          separator = [",", ";", "\t"].max_by { |one| text.lines.first(20).sum { |line| line.count(one) } }
          as_meant(CSV.parse(text, col_sep: separator))
        rescue CSV::MalformedCSVError => e
          forgiving(text, separator) or raise Invalid.new("This is not CSV: #{e.message.sub(/ in line \d+\.?\z/, '')} in line #{e.line_number}.", where: "line #{e.line_number}")
        end

        # Puts an apostrophe before anything a spreadsheet would run as a formula, as spreadsheets do to mark text; `rows` removes it again.
        # Text that already begins with such an apostrophe gets another one.
        # Common practice (OWASP, "CSV Injection").
        # @param row [Array<Object>]
        # @return [Array<Object>]
        def plain(row) = row.map { |cell| cell.is_a?(String) && cell.match?(FORMULA) ? "'#{cell}" : cell }

        private

        def as_meant(rows) = rows&.map { |row| row.map { |cell| cell&.match?(MARKED) ? cell[1..] : cell } }

        # Text of western languages in UTF-16 is every other byte nought.
        def guess(bytes)
          head = bytes.byteslice(0, GLANCE).bytes
          noughts = head.each_index.select { |at| head[at].zero? }
          return bytes.dup.force_encoding("UTF-8").valid_encoding? ? "UTF-8" : "Windows-1252" if noughts.size < head.size / 4

          noughts.count(&:odd?) > noughts.size / 2 ? "UTF-16LE" : "UTF-16BE"
        end

        def as(bytes, encoding) = bytes.force_encoding(encoding).encode("UTF-8", undef: :replace, invalid: :replace)

        # A stray inch mark (Tom 12" rack) is a character like any other.
        def forgiving(text, separator)
          as_meant(CSV.parse(text, col_sep: separator, liberal_parsing: true))
        rescue CSV::MalformedCSVError
          nil
        end
      end
    end
  end
end
