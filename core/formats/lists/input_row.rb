# frozen_string_literal: true

module Loomshuttle
  module Formats
    # Reads one row of an input list. What cannot be understood is left out of the entry and reported; a row without a
    # name, or that is crossed out, is not an entry.
    class InputRow
      # @param show [Settings::Show]
      def initialize(show)
        @show = show
        @by_socket = show.layout.sources.select(&:socket).to_h { |source| [source.socket, source.point] }
      end

      # @param fields [Hash{Symbol=>String}] cell by column  @param line [Integer] in the file
      # @param others [Array<String>] cells that tell nothing about the patch, such as notes
      # @return [Array(InputList::Entry or nil, Array<InputList::Problem>)]
      def read(fields, line, others = [])
        @line, @problems = line, []
        whole = fields.transform_values { |field| field.to_s.strip }
        words = whole.transform_values { |cell| CrossedOut.plain(cell) }
        why = CrossedOut.why(whole[:name].to_s, others)
        return [nil, [crossed_out(whole, why)]] if why
        return [nil, words.except(:channel).values.all?(&:empty?) ? [] : [problem("the row has no name; skipped", :no_name)]] if words[:name].to_s.empty?

        [entry(words), @problems]
      end

      private

      def entry(words)
        name = words[:name]
        base = StereoCell.base(name)
        number, last = channels(words[:channel].to_s)
        point, both = sockets(words[:socket].to_s)
        InputList::Entry.new(
          line: @line, channel: number, name: fit(base || name, Settings::NAME, "name"), short: fit(words[:short].to_s, Settings::SHORT, "short name"), socket: point,
          mic: fit(words[:mic].to_s, Settings::WORDS, "microphone"), stand: fit(words[:stand].to_s, Settings::WORDS, "stand"),
          phantom: words.key?(:phantom) ? yes_or_no(words[:phantom]) : nil, spot: spot(words[:spot].to_s), colour: colour(words[:colour].to_s), gain: gain(words[:gain].to_s),
          notes: fit(words[:notes].to_s, Settings::NOTES, "note"), stereo: !base.nil? || !last.nil? || both
        )
      end

      def crossed_out(whole, why)
        told = CrossedOut.nobody?(whole[:name]) ? whole.values_at(:channel, :socket).compact.reject(&:empty?).join(", ") : CrossedOut.shown(whole[:name])
        problem("#{told.empty? ? 'the row' : told} is left out: #{why}", :crossed_out)
      end

      def problem(words, kind) = InputList::Problem.new(line: @line, message: words, kind: kind)

      def note(words, kind)
        @problems << problem(words, kind)
        nil
      end

      # @return [Array(Integer, Integer)] the channel of a row, or both of a stereo one; nil for those that it does not name
      def channels(text)
        before, first, last = StereoCell.range(text)
        return [number(text), nil] unless first && before.match?(/\A\D{0,3}\z/)
        return [number(first.to_s), first + 1] if last == first + 1

        note("\"#{text}\" is not a channel and the next one; using the next free ones", :number)
        [nil, nil]
      end

      def number(text)
        return nil if text.empty?
        return note("\"#{text}\" is not a channel number; using the next free one", :number) unless text.match?(/\A\D{0,3}\d{1,4}\z/)

        number = text[/\d+/].to_i
        @show.channels.key?(number) ? number : note("#{@show.profile.name} has no channel #{number}; using the next free one", :number)
      end

      def fit(text, length, what)
        clean = text.gsub(/[[:cntrl:]]+/, " ")
        return clean if clean.length <= length

        note("the #{what} has #{clean.length} characters and was cut to #{length}", :cut)
        clean[0, length].strip
      end

      # @return [Array(Rig::Point, Boolean)] the socket of a row, or the left one of a stereo row, or nil; and whether the cell names two
      def sockets(text)
        return [note("\"#{text}\" names sockets on two boxes; two neighbours can be proposed", :halves), true] if StereoCell.split?(text)

        before, first, last = StereoCell.range(text)
        return [socket(text), false] unless first
        return [note("\"#{text}\" is not a socket and the next one; two neighbours can be proposed", :halves), true] unless last == first + 1

        left, right = [first, last].map { |one| socket("#{before} #{one}", text) }
        [(left if left && right && left.beside(1) == right), true]
      end

      # "A 9", "Box A in 9", "A9", "In 3", "line 2", "card 31"
      def socket(text, cell = text)
        return nil if text.empty?

        letters, number = text.downcase.scan(/\A\s*(?:stage)?\s*(?:box)?\s*([a-z]*)\s*[-.:]?\s*(?:in|input|return)?\s*[-.:]?\s*(\d+)\z/).first
        point = letters && number && (@by_socket[Rig::Point.read("box-#{letters}/in/#{number.to_i}")] || own(letters, number.to_i))
        return note("there is no socket \"#{text.strip}\" in this rig; a free one can be proposed", :socket) unless point

        source = @show.layout.source(point)
        source.missing ? note("#{cell}: #{source.missing}; a free one can be proposed", :socket) : point
      end

      def own(letters, number)
        kind = letters.empty? ? "in" : letters
        point = Rig::Point.read(kind == "card" ? "card/return/#{number}" : "desk/#{kind}/#{number}")
        point if point && @show.layout.source(point)
      end

      def yes_or_no(text)
        plain = text.downcase
        return true if InputList::YES.include?(plain)

        InputList::NO.include?(plain) ? false : note("\"#{text}\" says neither yes nor no to 48 V; it stays off", :value) || false
      end

      SPOTS = { "l" => "left", "sl" => "left", "stage left" => "left", "left" => "left", "c" => "centre", "centre" => "centre", "center" => "centre", "middle" => "centre",
                "r" => "right", "sr" => "right", "stage right" => "right", "right" => "right" }.freeze
      private_constant :SPOTS

      def spot(text) = text.empty? ? nil : SPOTS[text.downcase] || note("\"#{text}\" is not left, centre or right of the stage", :value)
      def colour(text) = text.empty? ? nil : Settings::DYES.find { |dye| dye == text.downcase } || note("there is no dye \"#{text}\"", :value)

      def gain(text)
        return nil if text.empty?

        figure = text.sub("−", "-")[/\A[+-]?\d+(?:\.\d+)?(?=\s*(?:db)?\z)/i]
        figure ? figure.to_f.round : note("\"#{text}\" is not a gain in dB", :value)
      end
    end
  end
end
