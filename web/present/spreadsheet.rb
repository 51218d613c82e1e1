# frozen_string_literal: true

require "csv"
require "json"
require "roo"
require "stringio"
require "tempfile"
require "zip"

module Loomshuttle
  module Web
    # The first sheet of a workbook (Office Open XML, ECMA-376) as CSV text. A separate process (processes/spreadsheet.rb) reads it with limited
    # time and memory, because a small file can unpack to any size.
    module Spreadsheet
      # Seconds, seconds of processor time, and bytes of memory that it has; bytes of CSV.
      SECONDS, PROCESSOR, MEMORY, LONGEST = 20, 10, 768 << 20, 8 << 20
      # Bytes of all its parts, unpacked; rows and columns that are read.
      MOST, ROWS, COLUMNS = 32 << 20, Formats::InputList::ROWS, 60

      class << self
        # @param bytes [String]
        # @return [Boolean] whether it is a ZIP file, as every workbook is
        def like?(bytes) = bytes.b.start_with?("PK\x03\x04".b)

        # @param bytes [String]
        # @return [Boolean] whether it is a compound file, as old workbooks are, and new ones with a password
        def old?(bytes) = bytes.b.start_with?("\xD0\xCF\x11\xE0".b)

        # @param bytes [String]
        # @return [String] CSV
        # @raise [Invalid] if it is not a workbook, or too large
        def csv(bytes)
          raise Invalid.new("This is a workbook in the old XLS format, or one with a password. Save it as XLSX without a password, or as CSV.", where: "list") if old?(bytes)

          text = Tempfile.create("workbook", binmode: true) do |file|
            file.write(bytes)
            file.flush
            Runtime::Programs.run(RbConfig.ruby, File.join(ROOT, "processes", "spreadsheet.rb"), file.path, seconds: SECONDS, most: LONGEST, environment: Runtime::GemPaths.environment,
                                                                                                            memory: MEMORY, processor: PROCESSOR).first
          end
          told = JSON.parse(text.force_encoding(Encoding::UTF_8))
          raise Invalid.new(told["error"], where: told["where"]) if told["error"]

          told.fetch("csv")
        rescue JSON::ParserError, KeyError, EncodingError # it was ended before it could say anything
          raise Invalid.new("This workbook takes more time or memory to read than there is for one. Save it as CSV, and try again.", where: "list")
        end

        # Reads it in this process; csv calls it in one with limits of time and memory. What is struck out comes between pairs of tildes, and merged cells
        # have their value everywhere.
        # @return [String] CSV   @raise [Invalid]
        def read(bytes)
          bounded(bytes)
          book = Roo::Excelx.new(StringIO.new(bytes), file_warning: :ignore)
          marks = SheetMarks.new(bytes)
          rows = []
          book.each_row_streaming(pad_cells: true, max_rows: ROWS) do |row|
            rows << [] while rows.size < [place(row), ROWS].min # rows of which the file has nothing
            rows << row.first(COLUMNS).map { |cell| text(cell)&.then { |words| marks.struck(words, cell.style) } }
          end
          raise Invalid.new("The first sheet of this workbook is empty.", where: "list") if rows.flatten.compact.empty?

          fill(rows, marks.merged)
          CSV.generate { |csv| rows.each { |row| csv << row } }
        rescue Invalid
          raise
        rescue StandardError # whatever a library makes of a damaged file
          raise Invalid.new("This workbook cannot be read. Save it as CSV, and try again.", where: "list")
        ensure
          book&.close
        end

        private

        def bounded(bytes)
          size = 0
          Zip::File.open_buffer(StringIO.new(bytes)) do |zip|
            size = zip.sum(&:size)
            raise Invalid.new("This is not a workbook in XLSX format. Save it as XLSX or CSV, and try again.", where: "list") unless zip.find_entry("xl/workbook.xml")
          end
          raise Invalid.new("This workbook has #{size >> 20} MiB unpacked; #{MOST >> 20} at most are read.", where: "size") if size > MOST
        end

        # @return [Integer] place of a row in the sheet, from 0 on; 0 where it has no cell that tells
        def place(row) = (row.compact.first&.coordinate&.row || 1) - 1

        def fill(rows, merged)
          merged.each do |one|
            value = rows.dig(one.rows.first, one.columns.first) or next
            one.rows.first.upto([one.rows.last, rows.size - 1].min) { |at| spread(rows[at], one.columns, value) }
          end
        end

        # A row with nothing else stays empty.
        def spread(row, columns, value)
          columns.first.upto([columns.last, COLUMNS - 1].min) { |column| row[column] = value } if row.any?
        end

        # A whole number is written without a point, as people see it in the cell.
        def text(cell)
          value = cell&.value
          value = value.round if value.is_a?(Float) && value == value.round
          value.to_s.scrub.delete("\0") unless value.nil?
        end
      end
    end
  end
end
