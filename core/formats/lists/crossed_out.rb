# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Rows of an input list that are still there but no longer count: struck out, marked as absent, or cancelled. The words are common practice,
    # no published source.
    module CrossedOut
      NOBODY = ["-", "–", "—", "--", "---", "./.", "n/a", "n.a.", "na", "none", "entf."].freeze
      CANCELLED = ["cancelled", "canceled", "dropped", "absent", "not playing", "not coming", "no show", "abgesagt", "entfällt", "entfallen", "gestrichen", "storniert",
                   "fällt aus", "annulé", "annulée", "supprimé", "supprimée", "absente", "cancelado", "cancelada", "anulado", "anulada", "suprimido", "annullato",
                   "annullata", "eliminato", "eliminata", "assente", "geannuleerd", "vervallen", "vervalt", "utgår", "inställd", "aflyst", "udgår", "avlyst", "peruttu",
                   "zrušeno", "odwołane"].freeze
      WORD = /(?:#{CANCELLED.map { |word| Regexp.escape(word) }.join('|')})/i
      # In a name such a word stands apart: "Harp (cancelled)", "Harp - entfällt", "CANCELLED: Harp".
      IN_NAME = /[(\[]\s*#{WORD}\s*[)\]]|\s[-–—:]+\s*#{WORD}\s*\z|\A#{WORD}\s*[-–—:]/i
      # Struck out as Spreadsheet hands it on, or by the combining stroke of Unicode.
      STRUCK = /~~.*?~~/
      STROKES = /[\u0335\u0336\u0337\u0338]/
      # Characters of a cell that are searched.
      LONGEST = 200
      private_constant :LONGEST, :NOBODY, :CANCELLED, :WORD, :IN_NAME, :STRUCK, :STROKES

      class << self
        # @param name [String] of the source, as its cell has it
        # @param others [Array<String>] cells of columns that tell nothing about the patch, such as notes
        # @return [String, nil] what says that the row does not count, nil if it does
        def why(name, others = [])
          return "struck out" if !name.strip.empty? && plain(name).empty?
          return "\"#{name}\"" if nobody?(name)

          word = name[0, LONGEST][IN_NAME] && name[WORD]
          word ||= others.map { |cell| cell[0, LONGEST].strip }.find { |cell| cell.match?(/\A#{WORD}[.!]*\z/i) }
          "\"#{word}\"" if word
        end

        # @return [Boolean] whether a name stands for nobody, such as a dash
        def nobody?(name) = NOBODY.include?(name.downcase)

        # @return [String] a cell without what is struck out
        def plain(cell)
          return "" if cell.match?(STROKES) && cell.scan(STROKES).size * 2 >= cell.gsub(/\s/, "").gsub(STROKES, "").size

          cell.gsub(STRUCK, " ").squeeze(" ").strip
        end

        # @return [String] a cell with what is struck out, for people
        def shown(cell) = cell.gsub(STROKES, "").delete("~").strip
      end
    end
  end
end
