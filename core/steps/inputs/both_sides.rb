# frozen_string_literal: true

module Loomshuttle
  module Steps
    # A stereo pair of channels is one thing: what is set of one side is set of the other, too. It is not where an edit names both, and where somebody has
    # accepted that they differ. A source of the right side alone is meant for that side.
    class BothSides
      # Fields that are the same on both sides.
      ALIKE = %w[colour main polarity groups send_taps position].freeze
      PATH = %r{\A(channel|send)/(\d+)/(\w+)\z}
      private_constant :PATH

      # @param show [Settings::Show]
      # @param settings [Hash{String=>Object}]
      # @param able [Proc] whether a channel can be set as its partner is
      # @return [Hash{String=>Object}] the settings, and those of the other sides
      def self.settings(show, settings, able = ->(_) { true }) = new(show, settings, able).settings

      def initialize(show, settings, able)
        @show, @given, @able = show, settings, able
      end

      def settings
        @given.reduce({}) { |all, (path, value)| all.merge(other(path, value)) }.reject { |path, _| @given.key?(path) }.then { |more| @given.merge(more) }
      end

      private

      # @return [Hash{String=>Object}] what the other side gets
      def other(path, value)
        kind, number, field = PATH.match(path)&.captures
        return {} unless kind
        return send_beside(number.to_i, field, value) if kind == "send"

        left = left_of(number.to_i) or return {}
        partner = number.to_i == left ? left + 1 : left
        return {} if accepted?(left, field)
        return @able.call(@show.channels[partner]) ? { "channel/#{partner}/#{field}" => value } : {} if ALIKE.include?(field)

        %w[stage take].include?(field) && partner > left ? beside(left, field, value) : {}
      end

      # @return [Integer, nil] the left channel of the pair that a channel belongs to
      def left_of(number) = [number, number - 1].find { |one| @show.channels[one]&.paired }

      def accepted?(left, field) = @show.setup.accepted.key?("pair-apart/#{left}/#{field}")

      # The right side follows while it has nothing, or what is beside its partner's.
      def beside(left, field, value)
        before, right = @show.channels[left][field], @show.channels[left + 1]
        return {} unless right[field].nil? || (before && right[field] == before.beside(1))

        point = Rig::Point.read(value)&.beside(1) if value
        return {} if value && !free?(point, field, [left, left + 1])

        { "channel/#{left + 1}/#{field}" => point&.name }
      end

      def free?(point, field, own)
        known = field == "take" ? @show.profile.return_points.include?(point) : point && @show.layout.source(point)&.then { |source| source.missing.nil? }
        known && @show.channels.values.none? { |channel| !own.include?(channel.number) && channel[field] == point }
      end

      # The lane of the right side is the one after the left side's.
      def send_beside(lane, field, value)
        return {} unless @show.sends.key?(lane + 1)
        return tap_beside(lane, value) if field == "tap"

        left = @show.channel_at(Rig::Point.read(value)) if field == "source" && value
        return {} unless left&.paired && lane.odd? && @show.sends[lane + 1].source.nil?

        { "send/#{lane + 1}/source" => Rig::Point.desk("ch", left.number + 1).name }
      end

      def tap_beside(lane, value)
        channel = @show.channel_at(@show.sends[lane].source) or return {}
        left = left_of(channel.number) or return {}
        other = channel.number == left ? [lane + 1, left + 1] : [lane - 1, left]
        @show.sends[other.first]&.source == Rig::Point.desk("ch", other.last) ? { "send/#{other.first}/tap" => value } : {}
      end
    end
  end
end
