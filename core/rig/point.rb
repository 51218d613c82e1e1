# frozen_string_literal: true

module Loomshuttle
  module Rig
    # A place that sound passes, as a value: a socket, a lane of a link or of the card, a lane of a channel or a mix at a tap, a side of a
    # track. Files, the API and people's edits call it by its name, which is read here and nowhere else:
    #   box-a/in/3   desk/in/3        sockets
    #   link/a/up/19                  a lane of a link
    #   desk/ch/7    desk/ch/17/l     a channel; left of a stereo one        desk/ch/7@preamp   at a tap
    #   desk/bus/1   desk/main/l   desk/matrix/1                             mixes, with taps too
    #   desk/output/15                what a mix is patched to
    #   card/send/7  card/return/7   track/7/in  track/7/out/r   recorder/mix/l
    #   interface/out/4              an output of the playback interface
    class Point
      SIDES = %w[l r].freeze
      MIXES = %w[bus main matrix].freeze

      NUMBER = "\\d{1,9}"
      PATTERN = %r{\A(?:
        desk/(?:main/[a-z]+|[a-z]+/#{NUMBER}(?:/[lr])?)(?:@(?:#{Label::TAPS.keys.join('|')}))? | box-[a-h]/[a-z]+/#{NUMBER} | card/(?:send|return)/#{NUMBER} |
        track/#{NUMBER}/(?:in|out)(?:/[lr])? | recorder/mix/[lr] | interface/out/#{NUMBER} | link/[a-z]/(?:up|down)/#{NUMBER})\z}x

      # Every graph uses the same few hundred points; parsed ones are kept, up to this many.
      KEPT = 20_000
      private_constant :NUMBER, :PATTERN, :KEPT

      @kept = {}

      class << self
        # @param name [String] such as "desk/ch/7" or "box-a/in/3"
        # @return [Point]
        # @raise [Invalid] if it does not name a point
        def of(name) = @kept[name] || read(name) || raise(Invalid.new("There is no point #{Text.readable(name, most: 60)} in this rig.", where: "point"))

        # @param text [Object]
        # @return [Point, nil] nil if the text does not name a point
        def read(text)
          return unless text.is_a?(String) && PATTERN.match?(text)

          @kept[text] || keep(new(text))
        end

        # @param letter ["a".."h"]   @param kind ["in", "out"]
        def box(letter, kind, number) = of("box-#{letter}/#{kind}/#{number}")

        # @param kind [String] a family of sockets, "ch", "bus", "matrix" or "output"   @param side ["l", "r", nil]
        def desk(kind, number, side = nil) = of(side ? "desk/#{kind}/#{number}/#{side}" : "desk/#{kind}/#{number}")

        # @param way ["up", "down"]
        def link(port, way, lane) = of("link/#{port}/#{way}/#{lane}")

        def main(side) = of("desk/main/#{side}")
        def card_send(lane) = FIRST_SEND.beside(lane - 1)
        def card_return(lane) = FIRST_RETURN.beside(lane - 1)

        # @param way ["in", "out"]
        def track(number, way, side = nil) = of(side ? "track/#{number}/#{way}/#{side}" : "track/#{number}/#{way}")

        # @param number [Integer] of an output of the playback interface
        def playback(number) = of("interface/out/#{number}")

        def own_mix(side) = of("recorder/mix/#{side}")

        private

        def keep(point)
          @kept = {} if @kept.size >= KEPT # another is as good: points are equal by their names
          @kept[point.name] = point
        end
      end

      # @return [String] its name; all that it is equal by
      attr_reader :name
      # @return ["desk", "box", "link", "card", "track", "recorder", "interface"]
      attr_reader :device
      # @return [String] "in", "ch", "bus", "send", "up", …
      attr_reader :kind
      # @return [Integer, nil] nil where it goes by its side alone
      attr_reader :number
      # @return [String, nil] "l" or "r" of a stereo lane; of a main also another
      attr_reader :side
      # @return [String, nil] one of Label::TAPS
      attr_reader :tap
      # @return [String, nil] of its box, or the port of its link
      attr_reader :letter

      # Use Point.of, which keeps one object per name.
      def initialize(name)
        @name = name.dup.freeze
        @hash = @name.hash
        @json = "\"#{@name}\"".freeze
        base, @tap = @name.split("@")
        read_parts(*base.split("/"))
        @channel = device == "desk" && kind == "ch"
        @others = {}
        freeze
      end

      attr_reader :hash

      def ==(other) = equal?(other) || (other.is_a?(Point) && name == other.name)
      alias eql? ==

      def channel? = @channel
      def mix? = device == "desk" && MIXES.include?(kind)
      def box? = device == "box"
      def link? = device == "link"
      def card? = device == "card"
      def card_return? = card? && kind == "return"
      def card_send? = card? && kind == "send"
      def track? = device == "track"
      def output? = device == "desk" && kind == "output"
      def playback? = device == "interface"
      def right? = side == "r"

      # @return [String] its name with dots instead of slashes
      def dotted = @others[:dotted] ||= name.tr("/", ".").freeze

      # @return [Point] without its tap
      def base = tap ? other(:base) { name.split("@").first } : self

      # @param tap [String] one of Label::TAPS
      # @return [Point] the same lane at that tap
      def at(tap) = other(tap) { "#{base.name}@#{tap}" }

      # @param steps [Integer]
      # @return [Point, nil] the point that many numbers further on; nil before the first
      def beside(steps)
        return self if steps.zero?
        return unless number + steps >= 1

        other(steps) { name.sub(%r{/\d+(?=/|@|\z)}, "/#{number + steps}") }
      end

      # @return [Boolean] whether the two differ only in their number
      def kin?(other) = [device, letter, kind, side, tap] == [other.device, other.letter, other.kind, other.side, other.tap]

      def to_s = name

      # @return [String] its name in quotes; no character of a name needs escaping
      def to_json(*) = @json
      def inspect = "#<Point #{name}>"

      private

      def read_parts(device, *words)
        @device, @letter = device.split("-")
        case device
        when "link" then @letter, @kind, @number = words
        when "track" then @number, @kind, @side = words
        else @kind, @number, @side = words
        end
        @side, @number = @number, nil unless @number.match?(/\A\d/)
        @number = @number&.to_i
      end

      # Its relations are few, and asked for again and again.
      def other(relation) = @others[relation] ||= Point.of(yield)

      # Others of their kind are found from these without a name being put together.
      FIRST_SEND, FIRST_RETURN = of("card/send/1"), of("card/return/1")
      private_constant :FIRST_SEND, :FIRST_RETURN
    end
  end
end
