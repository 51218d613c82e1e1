# frozen_string_literal: true

require "csv"
require "prawn"
require "prawn/table"

module Loomshuttle
  module Web
    # Who hears what on paper: a row for each source, a column for each listener, unmet requirements marked. Also as CSV (RFC 4180), with a row for
    # each pair.
    module HearingSheet
      # Listeners that fit beside each other.
      ACROSS = 10
      HEAD = %w[source listener db ms ways wish].freeze

      class << self
        # @param rows [Array<Hash>] of PresentHearing#rows
        # @return [String] CSV (RFC 4180); a missing level or time is empty
        def csv(rows) = CSV.generate(row_sep: "\r\n") { |out| [HEAD, *rows.map { |row| row.values_at(*HEAD.map(&:to_sym)) }].each { |line| out << Formats::ListText.plain(line) } }

        # @param seen [WhoHears::Seen]   @param printed [Time]
        # @return [String] the file's bytes
        def pdf(seen, printed: Time.now)
          show = seen.survey.show
          paper = Prawn::Document.new(page_size: "A4", page_layout: :landscape, margin: [42, 36, 42, 36],
                                      info: { Title: "Who hears what, #{show.about[:name]}", Creator: "Loomshuttle" })
          paper.font_families.update("DejaVu" => PatchSheet::FACES.transform_values { |file| File.join(PatchSheet::FONTS, file) })
          paper.font("DejaVu", size: 9)
          paper.fill_color(PatchSheet::INK)
          head(paper, seen)
          rows = PresentHearing.new(seen).rows.group_by { |row| row[:listener] }
          rows.each_slice(ACROSS).with_index { |some, page| table(paper, some, page) }
          paper.text("No listeners yet.") if rows.empty?
          paper.number_pages("#{show.about[:name]}, who hears what on #{printed.strftime('%-d %B %Y, %H:%M')}, page <page> of <total>",
                             at: [0, -14], width: paper.bounds.width, size: 7.5)
          paper.render
        end

        private

        def head(paper, seen)
          paper.text("#{seen.survey.show.about[:name]}: who hears what", size: 16, style: :bold)
          levels = { "desk" => "current desk levels", "sheet" => "from the snapshot \"#{seen.sheet&.dig(:name)}\"" }.fetch(seen.from, "desk levels unknown")
          paper.text("dB relative to the source after its preamp, all paths summed; #{levels}. ✕ requirement not met, ✓ met.")
          paper.move_down(8)
        end

        def table(paper, columns, page)
          last = columns.size
          paper.start_new_page if page.positive?
          names = columns.first.last.map { |row| row[:source] }
          body = names.each_index.map { |at| [names[at], *columns.map { |_, rows| cell(rows[at]) }] }
          paper.table([["Source", *columns.map(&:first)], *body], header: true, cell_style: { border_width: 0.5, border_color: PatchSheet::RULE, padding: [2, 4], size: 7.5 }) do
            row(0).font_style = :bold
            row(0).background_color = PatchSheet::GROUND
            columns(1..last).align = :right
          end
        end

        def cell(row)
          mark = { "broken" => "✕ ", "kept" => "✓ " }.fetch(row[:wish], "")
          "#{mark}#{row[:db] ? format('%.1f', row[:db]).tr('-', '−') : 'silent'}"
        end
      end
    end
  end
end
