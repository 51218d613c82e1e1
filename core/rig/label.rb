# frozen_string_literal: true

module Loomshuttle
  module Rig
    # The words for a point, as a person at the desk would say them.
    module Label
      WORDS = { "in" => "In", "line" => "Line", "out" => "Out", "ch" => "Channel", "bus" => "Bus", "main" => "Main", "matrix" => "Matrix",
                "output" => "Output", "lineout" => "Line out", "aes" => "AES3", "aesin" => "AES3 in", "personal" => "Personal mix" }.freeze

      TAPS = { "preamp" => "preamp", "channel-in" => "channel in", "pre-eq" => "pre-EQ", "post-eq" => "post-EQ",
               "pre-fader" => "pre-fader", "post-fader" => "post-fader" }.freeze

      # @param point [Point]
      # @return [String] e.g. "Channel 17 L at post-fader"
      def self.for(point) = point.tap ? "#{base(point)} at #{TAPS.fetch(point.tap)}" : base(point)

      # @return [String] a short form for cells: "A 9", "In 3", "card 31"
      def self.short(point)
        case point.device
        when "box" then "#{point.letter.upcase} #{'out ' unless point.kind == 'in'}#{point.number}"
        when "link" then "#{point.letter.upcase}·#{point.number}"
        when "card" then "card #{point.number}"
        else base(point)
        end
      end

      def self.base(point)
        kind, number, side = point.kind, point.number, point.side&.upcase
        case point.device
        when "desk" then [WORDS.fetch(kind, kind.capitalize), number, side].compact.join(" ")
        when "card" then "Card #{kind} #{number}"
        when "track" then ["Track", number, kind, side].compact.join(" ")
        when "interface" then "Playback out #{number}"
        when "recorder" then "Recorder mix #{side}"
        when "link" then "Link #{point.letter.upcase}, lane #{number}"
        when "box" then "Box #{point.letter.upcase} #{kind} #{number}"
        end
      end
      private_class_method :base
    end
  end
end
