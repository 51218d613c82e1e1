# frozen_string_literal: true

module Loomshuttle
  module Signal
    # How loud each join of a graph is: an array of levels beside the structure, so that a fader that moves makes no graph anew.
    # What nobody knows (the desk's mix, in a plan) is NaN there. Sums into the mains follow the constant-power pan law at
    # centre, -3 dB (common practice, no published source); a centre main gets nothing by itself.
    class Levels
      OFF = -90
      CENTRE_DB = -10 * Math.log10(2)
      UNKNOWN = Float::NAN

      # @param show [Settings::Show]
      # @return [Levels] preamps as they are planned; the rest is the mixing engineer's, and unknown
      def self.planned(show)
        slots = LevelSlots.of(show.profile)
        levels = Numo::DFloat.new(slots.size).fill(UNKNOWN)
        show.channels.each_value { |channel| levels[slots.place(:preamp, channel.number)] = channel.gain }
        new(slots, levels)
      end

      # @param show [Settings::Show] whose preamps count
      # @param faders [Hash{Integer=>Numeric}] channel => dB; what is OFF or lower, or not named, carries nothing
      # @param sends [Hash{Array(Integer, Integer)=>Numeric}] [channel, bus] => dB, likewise
      # @return [Levels] all known: equalisers flat, channels panned to the centre, masters at 0 dB
      def self.mixed(show, faders:, sends: {})
        planned(show).with(flat(show.profile)).with(faders.to_h { |number, level| [[:fader, number], level] }).with(sends.to_h { |at, level| [[:send, *at], level] })
      end

      # @return [Hash{Array=>Numeric}] a desk on which nobody has mixed: all faders and sends off
      def self.flat(desk)
        LevelSlots.of(desk).names.to_h do |name|
          level = case name
                  in [:pan, base, side] then pan(base, side)
                  in [:matrix, _, "l" | "r"] then CENTRE_DB
                  in [:fader | :send, *] then OFF
                  else 0
                  end
          [name, level]
        end.reject { |(kind, *), _| kind == :preamp }
      end

      # A lane in the middle goes to both sides; those of a stereo channel each to its own.
      def self.pan(base, side)
        return OFF if side == "c"
        return CENTRE_DB unless base.side

        base.side == side ? 0 : OFF
      end
      private_class_method :flat, :pan

      # @param slots [LevelSlots]   @param decibels [Numo::DFloat] in their order
      def initialize(slots, decibels)
        @slots = slots
        @decibels = decibels.freeze
        freeze
      end

      # @param changed [Hash{Array=>Numeric}] name of LevelSlots => dB
      # @return [Levels] another one
      def with(changed)
        levels = @decibels.dup
        changed.each { |name, level| levels[@slots.place(*name)] = level <= OFF ? -Float::INFINITY : level }
        Levels.new(@slots, levels)
      end

      # @param join [Join]
      # @return [Numeric, nil] dB; nil where nobody knows it
      def gain_db(join)
        return join.gain_db unless join.level

        level = @decibels[join.level]
        return if level.nan?

        level.finite? && level == level.round ? level.round : level
      end

      # @param joins [Array<Join>] one behind the other
      # @return [Numeric, nil] dB over all of them; nil where nobody knows a part
      def along(joins)
        gains = joins.map { |join| gain_db(join) }
        gains.sum unless gains.include?(nil)
      end
    end
  end
end
