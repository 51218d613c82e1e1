# frozen_string_literal: true

require "prawn"
require "prawn/table"

module Loomshuttle
  module Web
    # The running order on paper, for the stage and for front of house: times, lengths, changes for tonight and crew notes, large enough to be read
    # from the floor.
    module OrderSheet
      HEAD = ["", "Begins", "", "Lasts", "Tempo", "Then", "Crew note"].freeze
      THEN = { "hand" => "manual start", "on" => "starts at once" }.freeze

      class << self
        # @param playback [Hash] from PresentPlayback   @param show [Settings::Show]
        # @param printed [Time]
        # @return [String] the file's bytes
        def render(playback, show, printed: Time.now)
          paper = Prawn::Document.new(page_size: "A4", margin: [42, 36, 42, 36], info: { Title: "Running order, #{show.about[:name]}", Creator: "Loomshuttle" })
          paper.font_families.update("DejaVu" => PatchSheet::FACES.transform_values { |file| File.join(PatchSheet::FONTS, file) })
          paper.font("DejaVu", size: 9)
          paper.fill_color(PatchSheet::INK)
          head(paper, playback, show)
          items = playback[:items]
          items.empty? ? paper.text("Nothing is played tonight.") : table(paper, rows(items))
          paper.number_pages("#{show.about[:name]}, running order of #{printed.strftime('%-d %B %Y, %H:%M')}, page <page> of <total>",
                             at: [0, -14], width: paper.bounds.width, size: 7.5)
          paper.render
        end

        # @param items [Array<Hash>]
        # @return [Array<Array<String>>] a row per entry; start times count from the first, up to the first entry that waits for Play
        def rows(items)
          from = 0
          items.each.with_index(1).map do |item, number|
            begins = from
            from += item[:seconds] + (item[:follows] == "pause" ? item[:pause] : 0)
            follows = item[:kind] == "song" ? THEN.fetch(item[:follows]) { "after #{item[:pause]} s" } : ""
            words = [item[:crew], item[:problem] && "! #{item[:problem]}"].compact.reject(&:empty?).join("\n")
            [number.to_s, length(begins), item[:title], length(item[:seconds]), tempo(item), follows, words]
          end
        end

        private

        def head(paper, playback, show)
          paper.text("#{show.about[:name]}: running order", size: 16, style: :bold)
          paper.text("#{playback[:items].size} entries, #{length(playback[:seconds])} including pauses; #{playback[:hands]} manual starts. Times run from the first entry.")
          paper.move_down(8)
        end

        def table(paper, rows)
          last = rows.size
          paper.table([HEAD, *rows], header: true, width: paper.bounds.width, column_widths: { 0 => 22, 1 => 44, 3 => 40 },
                                     cell_style: { border_width: 0.5, border_color: PatchSheet::RULE, padding: [5, 5], size: 9 }) do
            row(0).font_style = :bold
            row(0).background_color = PatchSheet::GROUND
            row(0).size = 8
            rows(1..last).columns(2).size = 13
            rows(1..last).columns(2).font_style = :bold
            columns([1, 3]).align = :right
          end
        end

        def length(seconds)
          whole = seconds.round
          hours, rest = whole.divmod(3600)
          hours.zero? ? format("%d:%02d", rest / 60, rest % 60) : format("%d:%02d:%02d", hours, rest / 60, rest % 60)
        end

        def tempo(item)
          return "" unless item[:kind] == "song"

          tonight = Songs::Varied.plain?(item[:tempo], item[:key_by]) ? nil : Songs::Varied.words(item[:tempo], item[:key_by])
          ["#{item[:bpm]}#{", #{item[:meter]}" unless item[:meter] == '4/4'}", tonight].compact.join("\n")
        end
      end
    end
  end
end
