# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Reads one row of an input list. What cannot be understood is left out of the entry and reported; a row without a
    # name is not an entry.
    class InputRow
      # @param show [Settings::Show]
      def initialize(show)
        @show = show
        @by_socket = show.layout.sources.select(&:socket).to_h { |source| [source.socket, source.point] }
      end

      # @param fields [Hash{Symbol=>String}] cell by column  @param line [Integer] in the file
      # @return [Array(InputList::Entry or nil, Array<InputList::Problem>)]
      def read(fields, line)
        @line, @problems = line, []
        words = fields.transform_values { |field| field.to_s.strip }
        name = words[:name].to_s
        return [nil, words.except(:channel).values.all?(&:empty?) ? [] : [problem("the row has no name; skipped")]] if name.empty?

        entry = InputList::Entry.new(
          line: line, channel: number(words[:channel]), name: fit(name, Settings::NAME, "name"),
          short: fit(words[:short].to_s, Settings::SHORT, "short name"), socket: socket(words[:socket].to_s),
          mic: fit(words[:mic].to_s, Settings::WORDS, "microphone"), stand: fit(words[:stand].to_s, Settings::WORDS, "stand"),
          phantom: words.key?(:phantom) ? yes_or_no(words[:phantom]) : nil, spot: spot(words[:spot].to_s), colour: colour(words[:colour].to_s), gain: gain(words[:gain].to_s)
        )
        [entry, @problems]
      end

      private

      def problem(words) = InputList::Problem.new(line: @line, message: words)

      def note(words)
        @problems << problem(words)
        nil
      end

      def number(text)
        return nil if text.to_s.empty?
        return note("\"#{text}\" is not a channel number; using the next free one") unless text.match?(/\A\D{0,3}\d{1,4}\z/)

        number = text[/\d+/].to_i
        @show.channels.key?(number) ? number : note("#{@show.profile.name} has no channel #{number}; using the next free one")
      end

      def fit(text, length, what)
        clean = text.gsub(/[[:cntrl:]]+/, " ")
        return clean if clean.length <= length

        note("the #{what} has #{clean.length} characters and was cut to #{length}")
        clean[0, length].strip
      end

      # "A 9", "Box A in 9", "A9", "In 3", "line 2", "card 31"
      def socket(text)
        return nil if text.empty?

        letters, number = text.downcase.scan(/\A(?:stage)?\s*(?:box)?\s*([a-z]*)\s*[-.:]?\s*(?:in|input|return)?\s*[-.:]?\s*(\d+)\z/).first
        point = letters && number && (@by_socket[Rig::Point.read("box-#{letters}/in/#{number.to_i}")] || own(letters, number.to_i))
        return note("there is no socket \"#{text}\" in this rig; a free one can be proposed") unless point

        source = @show.layout.source(point)
        source.missing ? note("#{text}: #{source.missing}; a free one can be proposed") : point
      end

      def own(letters, number)
        kind = letters.empty? ? "in" : letters
        point = Rig::Point.read(kind == "card" ? "card/return/#{number}" : "desk/#{kind}/#{number}")
        point if point && @show.layout.source(point)
      end

      def yes_or_no(text)
        plain = text.downcase
        return true if InputList::YES.include?(plain)

        InputList::NO.include?(plain) ? false : note("\"#{text}\" says neither yes nor no to 48 V; it stays off") || false
      end

      SPOTS = { "l" => "left", "sl" => "left", "stage left" => "left", "left" => "left", "c" => "centre", "centre" => "centre", "center" => "centre", "middle" => "centre",
                "r" => "right", "sr" => "right", "stage right" => "right", "right" => "right" }.freeze
      private_constant :SPOTS

      def spot(text) = text.empty? ? nil : SPOTS[text.downcase] || note("\"#{text}\" is not left, centre or right of the stage")
      def colour(text) = text.empty? ? nil : Settings::DYES.find { |dye| dye == text.downcase } || note("there is no dye \"#{text}\"")

      def gain(text)
        return nil if text.empty?

        figure = text.sub("−", "-")[/\A[+-]?\d+(?:\.\d+)?(?=\s*(?:db)?\z)/i]
        figure ? figure.to_f.round : note("\"#{text}\" is not a gain in dB")
      end
    end
  end
end
