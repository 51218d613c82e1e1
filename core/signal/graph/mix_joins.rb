# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The joins inside the desk: the taps of each channel in order, the paths into its mixes, and between mixes. They are most of all joins and the
    # same for all shows with the same mix, so they are built once and shared. Their levels belong to the mixing engineer, so each join names its
    # level.
    class MixJoins
      # Ways of mixing that are kept for a kind of desk.
      KEPT = 4

      # @param mix [Mix]
      # @return [Graph]
      def self.of(mix)
        kept = mix.desk.memo(:mix_joins) { {} }
        kept[mix.key] ||= Graph.new(new(mix).joins).tap { kept.shift if kept.size >= KEPT }
      end

      def initialize(mix)
        @mix = mix
        @desk = mix.desk
        @slots = LevelSlots.of(@desk)
      end

      # @return [Array<Join>]
      def joins
        @desk.strips.flat_map { |strip| @desk.channel_points(strip.number).flat_map { |base| strip(base, strip.number) + sends(base, strip.number) } } +
          (1..@desk.buses).flat_map { |bus| bus_on_main(bus) } + matrices + @desk.mix_points.flat_map { |base| inside(base) }
      end

      private

      def join(from, to, level: nil, kind: :desk, turned: false)
        Join.new(from: from, to: to, gain_db: 0, level: level && @slots.place(*level), turned: turned, delay: 0, setting: nil, kind: kind, live: true)
      end

      def strip(base, number)
        [join(base.at("channel-in"), base.at("pre-eq"), level: [:trim, number], turned: @mix.turned?(number)),
         join(base.at("pre-eq"), base.at("post-eq"), level: [:equaliser, number]),
         join(base.at("post-eq"), base.at("pre-fader"), level: [:mute, number]), join(base.at("pre-fader"), base.at("post-fader"), level: [:fader, number])]
      end

      def sends(base, number)
        buses = (1..@desk.buses).filter_map do |bus|
          tap = @mix.tap(number, bus)
          join(base.at(tap), Rig::Point.desk("bus", bus).at("pre-eq"), kind: :mix, level: [:send, base, bus]) if tap && @mix.reaches?(base, @mix.side(bus))
        end
        mains = @mix.main?(number) ? @desk.mains.select { |side| @mix.reaches?(base, side) } : []
        buses + mains.map { |side| join(base.at("post-fader"), Rig::Point.main(side).at("pre-eq"), kind: :mix, level: [:pan, base, side]) }
      end

      def bus_on_main(bus)
        return [] unless @mix.bus_on_main?(bus)

        point = Rig::Point.desk("bus", bus).at("post-fader")
        (@desk.mains & [*(@mix.side(bus) || Rig::Point::SIDES)]).map { |side| join(point, Rig::Point.main(side).at("pre-eq"), kind: :mix, level: [:bus_pan, bus, side]) }
      end

      def matrices
        (1..@desk.matrices).flat_map do |number|
          matrix = Rig::Point.desk("matrix", number).at("pre-eq")
          @desk.into_matrix.map { |base| join(base.at("post-fader"), matrix, kind: :mix, level: [:matrix, number, base]) }
        end
      end

      # A mix from its sum to behind its fader.
      def inside(base)
        [join(base.at("pre-eq"), base.at("post-eq")), join(base.at("post-eq"), base.at("pre-fader")),
         join(base.at("pre-fader"), base.at("post-fader"), level: [:master, base])]
      end
    end
  end
end
