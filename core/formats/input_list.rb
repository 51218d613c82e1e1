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

      HEADERS = {
        channel: ["ch", "channel", "chan", "no", "nr", "#", "number", "input", "input no", "in"],
        name: ["name", "source", "instrument", "description", "what", "input name", "channel name"],
        short: ["short", "short name", "label", "scribble"],
        socket: ["socket", "stage box", "stagebox", "box", "patch", "stage input", "stage", "box input", "multicore"],
        mic: ["mic", "microphone", "mic/di", "mic / di", "mic or di", "di", "type"], stand: ["stand", "mic stand", "clip"],
        phantom: ["48v", "+48", "+48v", "48 v", "phantom", "phantom power"], spot: %w[spot position side place where],
        colour: %w[colour color dye], gain: ["gain", "preamp", "gain db", "preamp gain"]
      }.freeze
      WRITTEN = { channel: "channel", name: "name", short: "short", socket: "socket", mic: "mic", stand: "stand", phantom: "48v", spot: "spot", colour: "colour",
                  gain: "gain" }.freeze
      # Characters and rows of a list: no desk has more inputs.
      LONGEST, ROWS = 400_000, 2000
      YES = %w[yes y x 1 true on 48v +48 48].freeze
      NO = ["", "no", "n", "0", "false", "off", "-"].freeze

      # @param text [String] as it came, in UTF-8 or Windows-1252
      # @param show [Settings::Show] whose rig the sockets are looked up in
      # @return [Read] unknown: headers that mean nothing here
      # @raise [Invalid] when it is no table, or no column is a name
      def self.read(text, show)
        rows = bounded(text)
        header = rows.shift
        columns = (header || []).map { |word| column(word) }
        raise Invalid.new("No column is called #{HEADERS[:name].first(3).join(', ')}, or another word for the source's name.", where: "line 1") unless columns.include?(:name)

        reader = InputRow.new(show)
        entries, problems = rows.each.with_index(2).with_object([[], []]) do |(row, line), (good, bad)|
          next if row.all? { |field| field.to_s.strip.empty? }

          entry, wrong = reader.read(columns.zip(row).to_h.except(nil), line)
          good << entry if entry
          bad.concat(wrong)
        end
        Read.new(entries: entries, problems: problems, unknown: header.zip(columns).select { |word, known| known.nil? && !word.to_s.strip.empty? }.map(&:first))
      end

      # @param show [Settings::Show]
      # @return [String] one line a named channel; lines end in CR LF, as RFC 4180 has them
      def self.write(show)
        rows = Settings::SharedPreamp.settled(show).channels.values.reject { |channel| channel.name.empty? }.map do |channel|
          source = channel.stage && show.layout.source(channel.stage)
          [channel.number, channel.name, channel.short, source && Rig::Label.for(source.socket || source.point), channel.mic, channel.stand,
           channel.phantom ? "yes" : "", channel.spot, channel.colour, channel.gain]
        end
        CSV.generate(row_sep: "\r\n") { |csv| [WRITTEN.values, *rows].each { |row| csv << row } }
      end

      class << self
        private

        def bounded(text)
          raise Invalid.new("An input list has #{LONGEST} characters at most, not #{text.length}.", where: "list") if text.length > LONGEST

          parse(clean(text)).tap do |rows|
            raise Invalid.new("An input list has #{ROWS} rows at most, not #{rows.size}.", where: "list") if rows.size > ROWS
          end
        end

        def clean(text)
          utf8 = text.dup.force_encoding("UTF-8")
          utf8 = text.dup.force_encoding("Windows-1252").encode("UTF-8", undef: :replace, invalid: :replace) unless utf8.valid_encoding?
          utf8.delete_prefix("\uFEFF").gsub(/\r\n?/, "\n")
        end

        def parse(text)
          first = text.lines.first.to_s
          separator = [",", ";", "\t"].max_by { |one| first.count(one) }
          CSV.parse(text, col_sep: separator)
        rescue CSV::MalformedCSVError => e
          raise Invalid.new("This is not CSV: #{e.message.sub(/ in line \d+\.?\z/, '')} in line #{e.line_number}.", where: "line #{e.line_number}")
        end

        def column(word)
          plain = word.to_s.strip.downcase.gsub(/[_.]/, " ").squeeze(" ").strip
          HEADERS.find { |_, words| words.include?(plain) }&.first
        end
      end
    end
  end
end
