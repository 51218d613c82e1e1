# frozen_string_literal: true

module Loomshuttle
  module Rig
    # Words for a point's name, as a person at the desk says them.
    module Label
      WORDS = { "in" => "In", "line" => "Line", "out" => "Out", "ch" => "Channel", "bus" => "Bus", "main" => "Main" }.freeze

      TAPS = { "preamp" => "preamp", "channel-in" => "channel in", "pre-eq" => "pre-EQ", "post-eq" => "post-EQ",
               "pre-fader" => "pre-fader", "post-fader" => "post-fader" }.freeze

      # @param point [String] e.g. "desk/ch/17/l@post-fader"
      # @return [String] e.g. "Channel 17 L at post-fader"
      def self.for(point)
        base, tap = point.split("@")
        words = base_words(*base.split("/"))
        tap ? "#{words} at #{TAPS.fetch(tap)}" : words
      end

      def self.base_words(device, kind, number = nil, side = nil)
        case device
        when "desk" then [WORDS.fetch(kind, kind), kind == "main" ? number.upcase : number, side&.upcase].compact.join(" ")
        when "card" then "Card #{kind} #{number}"
        when "track" then ["Track", kind, number, side&.upcase].compact.join(" ")
        else [device, kind, number].compact.join(" ")
        end
      end
      private_class_method :base_words
    end
  end
end
