# frozen_string_literal: true

require "csv"
require "roo"
require "stringio"
require "zip"

module Loomshuttle
  module Web
    # The first sheet of a workbook (Office Open XML, ECMA-376) as CSV text. Its size is looked at before anything is unpacked.
    module Spreadsheet
      # Bytes of all its parts, unpacked; rows and columns that are read.
      MOST, ROWS, COLUMNS = 32 << 20, Formats::InputList::ROWS, 60

      class << self
        # @param bytes [String]
        # @return [Boolean] whether it is a ZIP file, as every workbook is
        def like?(bytes) = bytes.b.start_with?("PK\x03\x04".b)

        # @param bytes [String]
        # @return [String] CSV
        # @raise [Invalid] when it is no workbook, or too large
        def csv(bytes)
          bounded(bytes)
          book = Roo::Excelx.new(StringIO.new(bytes), file_warning: :ignore)
          rows = []
          book.each_row_streaming(pad_cells: true, max_rows: ROWS) { |row| rows << row.first(COLUMNS).map { |cell| text(cell) } }
          raise Invalid.new("The first sheet of this workbook is empty.", where: "list") if rows.flatten.compact.empty?

          CSV.generate { |csv| rows.each { |row| csv << row } }
        rescue Invalid
          raise
        rescue StandardError => e # whatever a library makes of a damaged file
          raise Invalid.new("This is no workbook that can be read: #{Text.readable(e.message, most: 100)}. Save it as CSV, and try again.", where: "list")
        ensure
          book&.close
        end

        private

        def bounded(bytes)
          size = 0
          Zip::File.open_buffer(StringIO.new(bytes)) { |zip| size = zip.sum(&:size) }
          raise Invalid.new("This workbook has #{size >> 20} MiB unpacked; #{MOST >> 20} at most are read.", where: "size") if size > MOST
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
