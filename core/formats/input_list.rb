# frozen_string_literal: true

require "csv"

module Loomshuttle
  module Formats
    # An input list as CSV (RFC 4180): written plainly, read forgivingly. Headers are recognised by the words that people
    # use; commas, semicolons or tabs may part the fields; every row that was not understood is reported.
    module InputList
      # One line of the list. socket: Rig::Point of a stage source, or nil; channel: number or nil;
      # phantom: nil where the list has no such column
      Entry = Value.define(:line, :channel, :name, :short, :socket, :mic, :stand, :phantom, :spot, :colour, :gain)
      # What was wrong in which line.
      Problem = Value.define(:line, :message)
      Read = Value.define(:entries, :problems, :unknown)
      # A column: its header, by what it is remembered (its plain header), the key of HEADERS that it is taken for, or nil, and what stands in it.
      Column = Value.define(:header, :key, :field, :samples)

      HEADERS = {
        channel: ["ch", "channel", "chan", "no", "nr", "#", "number", "channel no", "channel number", "ch no", "ch #", "input", "input no", "in", "kanal nr",
                  "kanal", "canal", "voie"],
        name: ["name", "source", "instrument", "description", "what", "input name", "channel name", "source name", "signal", "quelle", "bezeichnung", "input", "nom"],
        short: ["short", "short name", "label", "scribble"],
        socket: ["socket", "stage box", "stagebox", "box", "patch", "stage input", "stage", "box input", "multicore", "snake"],
        mic: ["mic", "microphone", "mic/di", "mic / di", "mic or di", "di", "type", "mikrofon", "micro"], stand: ["stand", "mic stand", "clip", "stativ", "pied"],
        phantom: ["48v", "+48", "+48v", "48 v", "48", "phantom", "phantom power", "p48", "+48 v", "fantom"], spot: %w[spot position side place where],
        colour: %w[colour color dye], gain: ["gain", "preamp", "gain db", "preamp gain"]
      }.freeze
      WRITTEN = { channel: "channel", name: "name", short: "short", socket: "socket", mic: "mic", stand: "stand", phantom: "48v", spot: "spot", colour: "colour",
                  gain: "gain" }.freeze
      # Characters and rows of a list: no desk has more inputs. Its header is among the first rows, under titles and dates.
      LONGEST, ROWS, TOP = 400_000, 2000, 15
      YES = %w[yes y x 1 true on 48v +48v +48 48 p48 ✓ ✔ ☑ ● ja j oui o si sí ok].freeze
      NO = ["", "no", "n", "0", "false", "off", "-", "–", "—", "✗", "☐", "nein", "non", "none"].freeze

      # @param text [String] UTF-8
      # @param show [Settings::Show] its rig decides which sockets exist
      # @param known [Hash{String=>String}] headers mapped by hand: plain header => a key of HEADERS, or "" to ignore it
      # @return [Read] `unknown` holds the headers that were not recognised
      # @raise [Invalid] if it is not a table, or no column holds names
      def self.read(text, show, known: {})
        table = table(text, known)
        raise Invalid.new("No column is called #{HEADERS[:name].first(3).join(', ')}, or another word for the source's name.", where: "line 1") unless table.fields.include?(:name)

        reader = InputRow.new(show)
        entries, problems = table.rows.with_object([[], []]) do |(row, line), (good, bad)|
          entry, wrong = reader.read(table.fields.zip(row).reject { |field, _| field.nil? }.to_h, line)
          good << entry if entry
          bad.concat(wrong)
        end
        Read.new(entries: entries, problems: problems, unknown: table.unknown(known))
      end

      # Tells what each column is taken for, so that a person can correct it.
      # @return [Array<Column>]
      # @raise [Invalid] when it is not a table
      def self.columns(text, known: {})
        table = table(text, known)
        table.header.each_with_index.reject { |word, _| plain(word).empty? }.map do |word, at|
          samples = table.rows.map { |row, _| row[at].to_s.strip }.reject(&:empty?).uniq.first(3)
          Column.new(header: word.strip, key: plain(word), field: table.fields[at]&.to_s, samples: samples)
        end
      end

      # @return [String] a header in lower case without punctuation, for comparing
      def self.plain(word) = word.to_s.downcase.gsub(/[_.:?*]+/, " ").squeeze(" ").strip

      # @param show [Settings::Show]
      # @return [String] one line per named channel; lines end in CR LF (RFC 4180)
      def self.write(show)
        rows = Settings::SharedPreamp.settled(show).channels.values.reject { |channel| channel.name.empty? }.map do |channel|
          source = channel.stage && show.layout.source(channel.stage)
          [channel.number, channel.name, channel.short, source && Rig::Label.for(source.socket || source.point), channel.mic, channel.stand,
           channel.phantom ? "yes" : "", channel.spot, channel.colour, channel.gain]
        end
        CSV.generate(row_sep: "\r\n") { |csv| [WRITTEN.values, *rows].each { |row| csv << ListText.plain(row) } }
      end

      class << self
        private

        def table(text, known)
          raise Invalid.new("An input list has #{LONGEST} characters at most, not #{text.length}.", where: "list") if text.length > LONGEST

          rows = ListText.rows(ListText.decode(text))
          raise Invalid.new("An input list has #{ROWS} rows at most, not #{rows.size}.", where: "list") if rows.size > ROWS

          ListTable.of(rows, known)
        end
      end
    end
  end
end
