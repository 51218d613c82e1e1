# frozen_string_literal: true

module Loomshuttle
  module Rig
    # Words for a point's name, as a person at the desk says them.
    module Label
      WORDS = { "in" => "In", "line" => "Line", "out" => "Out", "ch" => "Channel", "bus" => "Bus", "main" => "Main", "matrix" => "Matrix",
                "output" => "Output", "lineout" => "Line out", "aes" => "AES3", "personal" => "Personal mix" }.freeze

      TAPS = { "preamp" => "preamp", "channel-in" => "channel in", "pre-eq" => "pre-EQ", "post-eq" => "post-EQ",
               "pre-fader" => "pre-fader", "post-fader" => "post-fader" }.freeze

      # How points are named.
      POINT = %r{\A(desk/(main/[a-z]+|[a-z]+/\d{1,4}(/[lr])?)(@(#{TAPS.keys.join('|')}))?|box-[a-h]/(in|out)/\d{1,4}|card/(send|return)/\d{1,4}|
                 track/\d{1,4}/(in|out)(/[lr])?|recorder/mix/[lr]|link/[a-z]/(up|down)/\d{1,4})\z}x

      # @return [Boolean] whether a text names a point at all
      def self.point?(text) = text.match?(POINT)

      # @param point [String] e.g. "desk/ch/17/l@post-fader"
      # @return [String] e.g. "Channel 17 L at post-fader"
      def self.for(point)
        base, tap = point.split("@")
        words = base_words(*base.split("/"))
        tap ? "#{words} at #{TAPS.fetch(tap)}" : words
      end

      # @return [String] a socket in few characters, for a cell: "A 9", "In 3", "card 31"
      def self.short(point)
        device, kind, number = point.split("/")
        return "#{device.delete_prefix('box-').upcase} #{'out ' unless kind == 'in'}#{number}" if device.start_with?("box-")
        return "#{kind.upcase}·#{point.split('/').last}" if device == "link"

        device == "card" ? "card #{number}" : base_words(*point.split("/"))
      end

      def self.base_words(device, kind, number = nil, side = nil)
        case device
        when "desk" then [WORDS.fetch(kind, kind.capitalize), kind == "main" ? number.upcase : number, side&.upcase].compact.join(" ")
        when "card" then "Card #{kind} #{number}"
        when "track" then ["Track", kind, number, side&.upcase].compact.join(" ")
        when "recorder" then "Recorder's own mix #{number.upcase}"
        when "link" then "Link #{kind.upcase}, lane #{side}"
        when /\Abox-/ then "Box #{device.delete_prefix('box-').upcase} #{kind} #{number}"
        else [device, kind, number].compact.join(" ")
        end
      end
      private_class_method :base_words
    end
  end
end
