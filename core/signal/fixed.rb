# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The joins that a kind of desk is built with: the taps of each channel in order, and the ways into its mixes. They are the
    # same for every show on it, and most of all joins, so they are made once for a profile and shared. How loud they are is
    # the mix's, not the plan's to know: each names its level.
    class Fixed
      # @param desk [Rig::Desk]
      # @return [Graph]
      def self.of(desk) = desk.memo(:fixed_joins) { Graph.new(new(desk).joins) }

      def initialize(desk)
        @desk = desk
        @slots = LevelSlots.of(desk)
      end

      # @return [Array<Join>]
      def joins
        strips = @desk.strips.flat_map { |strip| @desk.channel_points(strip.number).flat_map { |base| strip(base, strip.number) + mixes(base, strip.number) } }
        strips + matrices + @desk.mix_points.map { |base| join(base.at("pre-fader"), base.at("post-fader"), level: [:master, base]) }
      end

      private

      def join(from, to, level: nil, kind: :desk)
        Join.new(from: from, to: to, gain_db: 0, level: level && @slots.place(*level), delay: 0, setting: nil, kind: kind, live: true)
      end

      def strip(base, number)
        [join(base.at("channel-in"), base.at("pre-eq")), join(base.at("pre-eq"), base.at("post-eq"), level: [:equaliser, number]),
         join(base.at("post-eq"), base.at("pre-fader")), join(base.at("pre-fader"), base.at("post-fader"), level: [:fader, number])]
      end

      def mixes(base, number)
        (1..@desk.buses).map { |bus| join(base.at("pre-fader"), Rig::Point.desk("bus", bus).at("pre-fader"), kind: :mix, level: [:send, number, bus]) } +
          @desk.mains.map { |side| join(base.at("post-fader"), Rig::Point.main(side).at("pre-fader"), kind: :mix, level: [:pan, base, side]) }
      end

      # Matrices carry the main mix, as they do before anybody sets them otherwise.
      def matrices
        (1..@desk.matrices).flat_map do |number|
          matrix = Rig::Point.desk("matrix", number).at("pre-fader")
          @desk.mains.map { |side| join(Rig::Point.main(side).at("post-fader"), matrix, kind: :mix, level: [:matrix, number, side]) }
        end
      end
    end
  end
end
