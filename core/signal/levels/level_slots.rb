# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The levels that a kind of desk has, each with its place in an array. They are named by what they decide:
    #   [:preamp, 7], [:trim, 7], [:equaliser, 7], [:mute, 7], [:fader, 7]   of a channel; mute: where it silences before the fader
    #   [:send, base, 3]        a channel's lane into bus 3, with its pan where that is one of a pair
    #   [:pan, base, "r"]       a channel's lane into a side of the main      [:bus_pan, 3, "r"]   likewise of a bus
    #   [:matrix, 2, base]      a bus or main into matrix 2
    #   [:master, base]         a mix's own fader and mute                    [:output, 4]         trim and mute of an output
    # The same for every show on the desk, so it is made once for a profile and shared.
    class LevelSlots
      # @param desk [Rig::Desk]
      # @return [LevelSlots]
      def self.of(desk) = desk.memo(:level_slots) { new(desk) }

      def initialize(desk)
        @desk = desk
        strips = desk.strips.flat_map { |strip| strip_levels(strip.number) }
        buses = (1..desk.buses).to_a.product(desk.mains).map { |bus, side| [:bus_pan, bus, side] }
        matrices = (1..desk.matrices).to_a.product(desk.into_matrix).map { |number, base| [:matrix, number, base] }
        masters = desk.mix_points.map { |base| [:master, base] }
        outputs = (1..desk.mix_outputs).map { |number| [:output, number] }
        @names = (strips + buses + matrices + masters + outputs).freeze
        @places = @names.each.with_index.to_h.freeze
        freeze
      end

      # @return [Array<Array>] names in the order of their places
      attr_reader :names

      # @return [Integer]
      def size = @places.size

      # @param name [Array]
      # @return [Integer] the level's place, from 0
      # @raise [KeyError] if the desk has no such level
      def place(*name) = @places.fetch(name)

      private

      def strip_levels(number)
        lanes = @desk.channel_points(number)
        sends = lanes.product((1..@desk.buses).to_a).map { |base, bus| [:send, base, bus] }
        [[:preamp, number], [:trim, number], [:equaliser, number], [:mute, number], [:fader, number]] + sends + lanes.product(@desk.mains).map { |base, side| [:pan, base, side] }
      end
    end
  end
end
