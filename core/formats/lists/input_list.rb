# frozen_string_literal: true

require "csv"

module Loomshuttle
  module Formats
    # An input list as CSV (RFC 4180): written plainly, read forgivingly. Headers are recognised by the words that people
    # use; commas, semicolons or tabs may part the fields; every row that was not understood is reported.
    module InputList
      # One line of the list. socket: Rig::Point of a stage source, or nil; channel: number or nil;
      # phantom: nil where the list has no such column; stereo: whether it is both sides of a source, whose left has the channel and the socket
      Entry = Value.define(:line, :channel, :name, :short, :socket, :mic, :stand, :phantom, :spot, :colour, :gain, :notes, :stereo)
      # What was wrong in which line, and its kind: a key of Remarks::KINDS.
      Problem = Value.define(:line, :message, :kind)
      # line: of the header.
      Read = Value.define(:entries, :problems, :unknown, :line)
      # A column: its header, by what it is remembered (its plain header), the key of HEADERS that it is taken for, or nil, the one that it probably is,
      # or nil, and what stands in it.
      Column = Value.define(:header, :key, :field, :guess, :samples)

      HEADERS = {
        channel: ["ch", "channel", "chan", "no", "nr", "#", "number", "channel no", "channel number", "ch no", "ch #", "input", "input no", "in", "kanal nr",
                  "kanal", "canal", "voie"],
        name: ["name", "source", "instrument", "description", "what", "input name", "channel name", "source name", "signal", "quelle", "bezeichnung", "input", "nom", "nombre",
               "instrumento", "fuente", "strumento", "bron"],
        short: ["short", "short name", "label", "scribble"],
        socket: ["socket", "stage box", "stagebox", "box", "patch", "stage input", "stage", "box input", "multicore", "snake"],
        mic: ["mic", "microphone", "mic/di", "mic / di", "mic or di", "di", "type", "mikrofon", "micro"], stand: ["stand", "mic stand", "clip", "stativ", "pied"],
        phantom: ["48v", "+48", "+48v", "48 v", "48", "phantom", "phantom power", "p48", "+48 v", "fantom"], spot: %w[spot position side place where],
        colour: %w[colour color dye], gain: ["gain", "preamp", "gain db", "preamp gain"],
        notes: %w[notes note comment comments remark remarks bemerkung bemerkungen notiz notizen hinweis remarques remarque notas observaciones opmerkingen]
      }.freeze
      WRITTEN = { channel: "channel", name: "name", short: "short", socket: "socket", mic: "mic", stand: "stand", phantom: "48v", spot: "spot", colour: "colour",
                  gain: "gain", notes: "notes" }.freeze
      # Characters and rows of a list: no desk has more inputs. Its header is among the first rows, under titles and dates.
      LONGEST, ROWS, TOP = 400_000, 2000, 15
      # Cells of each of those that are shown, and characters of a cell.
      CELLS, GLANCE = 12, 80
      YES = %w[yes y x 1 true on 48v +48v +48 48 p48 ✓ ✔ ☑ ● ja j oui o si sí ok].freeze
      NO = ["", "no", "n", "0", "false", "off", "-", "–", "—", "✗", "☐", "nein", "non", "none"].freeze

      # @param text [String] UTF-8
      # @param show [Settings::Show] its rig decides which sockets exist
      # @param known [Hash{String=>String}] headers mapped by hand: plain header => a key of HEADERS, or "" to ignore it
      # @param header [Integer, nil] the line of the header, from 1 on; nil: the first one near the top that names a source
      # @return [Read] `unknown` holds the headers that were not recognised
      # @raise [Invalid] if it is not a table, or no column holds names
      def self.read(text, show, known: {}, header: nil)
        table = table(text, known, header)
        unless table.fields.include?(:name)
          raise Invalid.new("No column is called #{HEADERS[:name].first(3).join(', ')}, or another word for the source's name.", where: "line #{table.line}")
        end

        reader = InputRow.new(show)
        entries, problems = table.rows.each_with_object([[], []]) do |(row, line), (good, bad)|
          entry, wrong = table.title?(row) ? [nil, [title(row, line)]] : reader.read(table.cells(row), line, table.others(row))
          good << entry if entry
          bad.concat(wrong)
        end
        Read.new(entries: entries, problems: problems, unknown: table.unknown(known), line: table.line)
      end

      # Tells what each column is taken for, so that a person can correct it.
      # @param known [Hash{String=>String}]   @param header [Integer, nil] both as read has them
      # @return [Array<Column>]
      # @raise [Invalid] when it is not a table
      def self.columns(text, known: {}, header: nil)
        table = table(text, known, header)
        guesses = ColumnGuess.of(table, known)
        table.header.each_with_index.reject { |word, _| plain(word).empty? }.map do |word, at|
          samples = table.rows.map { |row, _| row[at].to_s.strip }.reject(&:empty?).uniq.first(3)
          Column.new(header: word.strip, key: plain(word), field: table.fields[at]&.to_s, guess: guesses[at]&.to_s, samples: samples)
        end
      end

      # @param header [Integer, nil] as read has it
      # @return [Hash] header (its line, from 1 on) and rows: the first TOP rows with something in them, each with line and cells
      # @raise [Invalid] when it is not a table
      def self.top(text, known: {}, header: nil)
        lines = rows(text)
        rows = lines.first(TOP).each.with_index(1).map { |row, line| { line: line, cells: glance(row) } }
        { header: ListTable.of(lines, known, header).line, rows: rows.reject { |row| row[:cells].empty? } }
      end

      # @return [String] a header in lower case without punctuation, for comparing
      def self.plain(word) = word.to_s.downcase.gsub(/[_.:?*]+/, " ").squeeze(" ").strip

      # @param show [Settings::Show]
      # @return [String] one line per named channel; lines end in CR LF (RFC 4180)
      def self.write(show)
        rows = Settings::SharedPreamp.settled(show).channels.values.reject { |channel| channel.name.empty? }.map do |channel|
          source = channel.stage && show.layout.source(channel.stage)
          [channel.number, channel.name, channel.short, source && Rig::Label.for(source.socket || source.point), channel.mic, channel.stand,
           channel.phantom ? "yes" : "", channel.spot, channel.colour, channel.gain, channel.notes]
        end
        CSV.generate(row_sep: "\r\n") { |csv| [WRITTEN.values, *rows].each { |row| csv << ListText.plain(row) } }
      end

      class << self
        private

        def table(text, known, header) = ListTable.of(rows(text), known, header)

        def rows(text)
          raise Invalid.new("An input list has #{LONGEST} characters at most, not #{text.length}.", where: "list") if text.length > LONGEST

          rows = ListText.rows(ListText.decode(text))
          raise Invalid.new("An input list has #{ROWS} rows at most, not #{rows.size}.", where: "list") if rows.size > ROWS

          rows
        end

        def glance(row) = row.lazy.map { |cell| cell.to_s[0, GLANCE].strip }.reject(&:empty?).first(CELLS)

        def title(row, line)
          words = row.map { |cell| cell.to_s.strip }.find { |cell| !cell.empty? }
          Problem.new(line: line, message: "\"#{words[0, 60]}\" is a title or a note; skipped", kind: :title)
        end
      end
    end
  end
end
