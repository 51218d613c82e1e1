# frozen_string_literal: true

module Loomshuttle
  module Formats
    # What a column that no header is known for probably holds: by the words of its header, and by what stands in it. A person confirms it.
    class ColumnGuess
      LETTERED = /\A(?:stage)?\s*(?:box)?\s*(?:[a-h]|in|line|card)\s*[-.:]?\s*(?:in\s*)?\d+/i
      PHANTOM = /\A(?:\+?48\s*v?|p48|phantom)\z/i
      GAIN = /\A[+−-]?\d+(?:\.\d+)?\s*db\z/i
      NUMBER = %r{\A(?:ch|no|nr|\#)?[.\s]*\d{1,3}(?:\s*[-/+&]\s*\d{1,3})?\z}
      MIC = /\b(?:di|dynamic|dynamisch|dynamique|condenser|kondensator|statique|ribbon|clip|boundary|mic|mikro\w*|wireless|radio|headset|lav\w*)\b/i
      STAND = /\b(?:boom|stand|tall|short|round base|clamp|galgen|stativ|pied|perche)\b/i
      # What a column must hold in most of its cells to be taken for a field, the plainest first.
      SIGNS = { gain: GAIN, phantom: PHANTOM, spot: /\A(?:sl|sr|[lcr]|left|right|cent(?:re|er)|middle|stage left|stage right)\z/i, stand: STAND, mic: MIC, socket: LETTERED,
                channel: NUMBER }.freeze
      # Columns and rows that are looked at.
      COLUMNS, ROWS = 60, 200
      private_constant :COLUMNS, :ROWS, :LETTERED, :PHANTOM, :GAIN, :NUMBER, :MIC, :STAND, :SIGNS

      # @param table [ListTable]   @param known [Hash{String=>String}] as InputList.read has it
      # @return [Hash{Integer=>Symbol}] place of a column => a key of InputList::HEADERS
      def self.of(table, known) = new(table, known).guesses

      def initialize(table, known)
        @table = table
        @rows = table.rows.map(&:first).reject { |row| table.title?(row) }.first(ROWS)
        @open = table.header.each_index.first(COLUMNS).select { |at| table.fields[at].nil? && !table.header[at].empty? && !known.key?(InputList.plain(table.header[at])) }
        @taken = table.fields.compact
        @guesses = {}
      end

      def guesses
        @open.each { |at| guess(at, by_header(at)) }
        SIGNS.each { |field, sign| @open.each { |at| guess(at, field) if !@guesses[at] && holds?(at, sign) } }
        guess(longest, :name)
        @guesses
      end

      private

      def guess(at, field)
        return if at.nil? || field.nil? || @taken.include?(field)

        @guesses[at] = field
        @taken << field
      end

      # A header that has one of the known words among its own: "mic model", "stage box input".
      def by_header(at)
        words = InputList.plain(@table.header[at]).split(%r{[\s/()-]+})
        found = InputList::HEADERS.map { |field, known| [field, known.select { |one| words.include?(one) }.map(&:size).max.to_i] }
        found.reject { |field, size| size < 3 || @taken.include?(field) }.max_by(&:last)&.first
      end

      def texts(at) = (@texts ||= {})[at] ||= @rows.map { |row| row[at].to_s[0, 80].strip }.reject(&:empty?)

      def holds?(at, sign)
        texts = texts(at)
        texts.any? && texts.count { |text| text.match?(sign) } * 3 >= texts.size * 2 && (sign != NUMBER || texts.uniq.size == texts.size)
      end

      # Of the columns that are still open the one with the most different texts in letters.
      def longest
        @open.reject { |at| @guesses[at] }.map { |at| [at, texts(at).grep(/[[:alpha:]]{2}/).uniq.size] }.reject { |_, size| size < 2 }.max_by(&:last)&.first
      end
    end
  end
end
