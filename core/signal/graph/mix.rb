# frozen_string_literal: true

module Loomshuttle
  module Signal
    # How a show mixes, apart from levels: leading buses, taps of sends, channels on main. Equal by content, so that shows with the same mix share
    # everything derived from it.
    class Mix
      # @param show [Settings::Show]
      def initialize(show)
        @desk = show.profile
        @channels = show.channels.values.map { |channel| [channel.polarity, channel.main, channel.groups, channel.send_taps] }
        @buses = show.buses.values.map { |bus| [bus.mode, bus.tap, bus.main, bus.paired] }
        @key = [@channels, @buses].freeze
        freeze
      end

      attr_reader :desk, :key

      def turned?(channel) = @channels[channel - 1][0]
      def main?(channel) = @channels[channel - 1][1]
      def group?(bus) = @buses[leader(bus) - 1][0] == "subgroup"
      def bus_on_main?(bus) = @desk.mixing.bus_to_main && @buses[leader(bus) - 1][2]

      # @param groups [Array<Integer>] of a channel
      # @return [Array<Integer>] those that lead to main
      def on_main(groups) = groups.select { |bus| group?(bus) && bus_on_main?(bus) }

      # @return [Integer] the bus whose settings count: itself, or the left one of a pair
      def leader(bus) = bus.even? && @buses[bus - 2][3] ? bus - 1 : bus

      # @return ["l", "r", nil] the bus's side in its pair; nil for a mono bus
      def side(bus)
        leader = leader(bus)
        return unless @buses[leader - 1][3]

        leader == bus ? "l" : "r"
      end

      # @return [String, nil] tap at which a channel feeds a bus; nil for a subgroup that the channel is not in
      def tap(channel, bus)
        leader = leader(bus)
        _, _, groups, taps = @channels[channel - 1]
        return taps.fetch(leader.to_s) { @buses[leader - 1][1] } unless group?(bus)

        "post-fader" if groups.include?(leader)
      end

      # @param base [Rig::Point] a channel's lane   @param side ["l", "r", "c", nil] of a mix; nil for mono
      # @return [Boolean] whether the lane feeds that side
      def reaches?(base, side) = side.nil? || (side != "c" && (base.side.nil? || base.side == side))
    end
  end
end
