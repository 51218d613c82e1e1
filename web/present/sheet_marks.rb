# frozen_string_literal: true

require "nokogiri"
require "stringio"
require "zip"

module Loomshuttle
  module Web
    # What the first sheet of a workbook (ECMA-376, part 1, SpreadsheetML) tells beside the values of its cells: what is struck out, and which cells are
    # merged.
    class SheetMarks
      # Merged cells: rows and columns, from 0 on.
      Merged = Struct.new(:rows, :columns)
      CELL = /\A([A-Z]{1,3})(\d{1,7})\z/
      private_constant :CELL

      # @param bytes [String] of the workbook
      def initialize(bytes)
        Zip::File.open_buffer(StringIO.new(bytes)) do |zip|
          @styles = styles(part(zip, "xl/styles.xml"))
          @texts = texts(part(zip, "xl/sharedStrings.xml"))
          @merged = ranges(part(zip, first_sheet(zip)))
        end
      end

      # @return [Array<Merged>]
      attr_reader :merged

      # @param text [String] value of a cell   @param style [Integer, nil] number of its format
      # @return [String] the text with what is struck out between pairs of tildes, as Markdown has it
      def struck(text, style) = @styles[style] && !text.strip.empty? ? "~~#{text.strip}~~" : @texts.fetch(text, text)

      private

      def part(zip, path)
        entry = zip.find_entry(path) or return
        Nokogiri::XML(entry.get_input_stream.read) { |options| options.nonet.huge }.remove_namespaces!
      end

      def first_sheet(zip)
        book, links = part(zip, "xl/workbook.xml"), part(zip, "xl/_rels/workbook.xml.rels")
        id = book&.at_xpath("//sheets/sheet")&.[]("id")
        target = links&.at_xpath("//Relationship[@Id='#{id.to_s[/\A\w+\z/]}']")&.[]("Target").to_s
        return "xl/worksheets/sheet1.xml" if target.empty?

        target.start_with?("/") ? target.delete_prefix("/") : "xl/#{target}"
      end

      def on?(element) = !element.nil? && !%w[0 false].include?(element["val"])

      # @return [Hash{Integer=>true}] formats with a struck font
      def styles(document)
        return {} unless document

        fonts = document.xpath("/styleSheet/fonts/font").map { |font| on?(font.at_xpath("strike")) }
        document.xpath("/styleSheet/cellXfs/xf").each_with_index.select { |format, _| fonts[format["fontId"].to_i] }.to_h { |_, at| [at, true] }
      end

      # Texts of which only a part is struck out. A text that stands in another cell without is left as it is.
      def texts(document)
        items = (document&.xpath("/sst/si[r]") || []).to_h { |item| marked(item.xpath("r")) }
        plain = document&.xpath("/sst/si[not(r)]/t")&.map(&:text) || []
        items.reject { |text, marked| text == marked || plain.include?(text) }
      end

      # @return [Array(String, String)] a text without marks, and with them
      def marked(runs)
        parts = runs.map { |run| [run.at_xpath("t")&.text.to_s, on?(run.at_xpath("rPr/strike"))] }
        [parts.map(&:first).join, parts.map { |text, gone| gone && !text.strip.empty? ? "~~#{text}~~" : text }.join]
      end

      def ranges(document)
        (document&.xpath("/worksheet/mergeCells/mergeCell") || []).filter_map do |cell|
          from, to = cell["ref"].to_s.split(":").map { |one| place(one) }
          Merged.new(from.first..to.first, from.last..to.last) if from && to
        end
      end

      # "C7" => [6, 2]
      def place(text)
        letters, row = CELL.match(text)&.captures
        [row.to_i - 1, letters.each_char.reduce(0) { |sum, letter| (sum * 26) + letter.ord - 64 } - 1] if row
      end
    end
  end
end
