# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The levels that a kind of desk has, each with its place in an array. They are named by what they are:
    #   [:preamp, 7]            a channel's preamp        [:equaliser, 7], [:fader, 7]   of a channel
    #   [:send, 7, 3]           channel 7 to bus 3        [:pan, base, "r"]       a channel's lane to a side of the main
    #   [:matrix, 2, "l"]       the main's left into matrix 2     [:master, base]           a mix's own fader
    # The same for every show on the desk, so it is made once for a profile and shared.
    class LevelSlots
      # @param desk [Rig::Desk]
      # @return [LevelSlots]
      def self.of(desk) = desk.memo(:level_slots) { new(desk) }

      def initialize(desk)
        strips = desk.strips.flat_map { |strip| strip_levels(desk, strip.number) }
        masters = desk.mix_points.map { |base| [:master, base] }
        matrices = (1..desk.matrices).flat_map { |number| desk.mains.map { |side| [:matrix, number, side] } }
        @places = (strips + masters + matrices).each.with_index.to_h.freeze
        freeze
      end

      # @return [Array<Array>] names in the order of their places
      def names = @places.keys

      # @return [Integer]
      def size = @places.size

      # @param name [Array]
      # @return [Integer] its place, from 0
      # @raise [KeyError] when the desk has no such level
      def place(*name) = @places.fetch(name)

      private

      def strip_levels(desk, number)
        sides = desk.channel_points(number).product(desk.mains).map { |base, side| [:pan, base, side] }
        [[:preamp, number], [:equaliser, number], [:fader, number]] + (1..desk.buses).map { |bus| [:send, number, bus] } + sides
      end
    end
  end
end
