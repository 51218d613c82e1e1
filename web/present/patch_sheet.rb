# frozen_string_literal: true

require "prawn"
require "prawn/table"

module Loomshuttle
  module Web
    # The patch sheet as PDF on A4: a table for each section of Views::Sheets.
    module PatchSheet
      # Debian's DejaVu fonts; the PDF format's own know no UTF-8.
      FONTS = "/usr/share/fonts/truetype/dejavu"
      FACES = { normal: "DejaVuSans.ttf", bold: "DejaVuSans-Bold.ttf" }.freeze
      INK, RULE, GROUND = "23201C", "B9AF9B", "F3EDE1"

      # @param show [Settings::Show]
      # @param printed [Time]
      # @return [String] the file's bytes
      def self.render(show, printed: Time.now)
        pdf = Prawn::Document.new(page_size: "A4", margin: [42, 36, 42, 36], info: { Title: "Patch sheet, #{show.about[:name]}", Creator: "Loomshuttle" })
        pdf.font_families.update("DejaVu" => FACES.transform_values { |file| File.join(FONTS, file) })
        pdf.font("DejaVu", size: 9)
        pdf.fill_color(INK)
        head(pdf, show)
        Views::Sheets.of(show).each { |table| section(pdf, table) }
        foot(pdf, show, printed)
        pdf.render
      end

      class << self
        private

        def head(pdf, show)
          pdf.text(show.about[:name].to_s, size: 16, style: :bold)
          line = [show.about[:act], show.about[:place], show.about[:date], show.profile.name].reject { |word| word.to_s.empty? }.join(" · ")
          pdf.text(line)
          pdf.move_down(6)
        end

        # A heading never stands alone at the foot of a page.
        def section(pdf, table)
          pdf.start_new_page if pdf.cursor < 110
          pdf.move_down(12)
          pdf.text("#{table.title} <font size='8'>#{table.note}</font>", size: 12, style: :bold, inline_format: true)
          pdf.move_down(4)
          pdf.table([table.head, *table.rows], header: true, width: pdf.bounds.width, cell_style: { border_width: 0.5, border_color: RULE, padding: [2.5, 4], size: 8 }) do
            row(0).font_style = :bold
            row(0).background_color = GROUND
          end
        end

        def foot(pdf, show, printed)
          pdf.number_pages("#{show.about[:name]}, patch sheet of #{printed.strftime('%-d %B %Y, %H:%M')}, page <page> of <total>", at: [0, -14], width: pdf.bounds.width, size: 7.5)
        end
      end
    end
  end
end
