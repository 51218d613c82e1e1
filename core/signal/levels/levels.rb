# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Signal
    # The level of each join of a graph, as an array beside the structure, so that a moved fader needs no new graph. Unknown levels, such as those
    # of the desk in a plan, are NaN.
    class Levels
      # What a mono source has on both sides of a stereo mix that nobody has panned: constant power.
      CENTRE_DB = -10 * Math.log10(2)
      UNKNOWN = Float::NAN
      # Levels that a plan has, first words of their names.
      PLANNED = %i[preamp trim].freeze

      # @param show [Settings::Show]
      # @return [Levels] preamps and trims as planned; mixing levels are not part of the plan and stay unknown
      def self.planned(show)
        slots = LevelSlots.of(show.profile)
        new(slots, Numo::DFloat.cast(settled(show, slots)))
      end

      # @return [Array<Float>] planned levels in dB, in the order of the slots
      def self.settled(show, slots)
        levels = Array.new(slots.size, UNKNOWN)
        places = show.profile.memo(:planned_levels) { show.channels.keys.to_h { |number| [number, PLANNED.map { |kind| slots.place(kind, number) }] } }
        Settings::SharedPreamp.settled(show).channels.each_value do |channel|
          preamp, trim = places.fetch(channel.number)
          levels[preamp], levels[trim] = channel.gain, channel.trim
        end
        levels
      end
      private_class_method :settled

      # @param show [Settings::Show] provides preamps, trims and routing
      # @param values [Hash{String=>Object}] levels read from the desk (MixedLevels)
      # @return [Levels]
      def self.mixed(show, values)
        slots, mixed = LevelSlots.of(show.profile), MixedLevels.new(show, values)
        levels = settled(show, slots)
        slots.names.each_with_index { |name, place| levels[place] = mixed.level(name) || UNKNOWN unless PLANNED.include?(name.first) }
        new(slots, Numo::DFloat.cast(levels))
      end

      # @param values [Hash{String=>Object}] levels as the desk has them now   @param changed [Array<String>] names of the levels that changed
      # @return [Levels]
      def turned(show, values, changed)
        mixed = MixedLevels.new(show, values)
        with(changed.flat_map { |name| mixed.hanging_on(name) }.uniq.to_h { |name| [name, mixed.level(name) || UNKNOWN] })
      end

      # @param slots [LevelSlots]   @param decibels [Numo::DFloat] level of each slot in dB, NaN if unknown
      def initialize(slots, decibels)
        @slots = slots
        @decibels = decibels.freeze
        freeze
      end

      # @param changed [Hash{Array=>Numeric}] name in LevelSlots => dB
      # @return [Levels] a copy with these levels
      def with(changed)
        levels = @decibels.dup
        changed.each { |name, level| levels[@slots.place(*name)] = level }
        Levels.new(@slots, levels)
      end

      # @param join [Join]
      # @return [Numeric, nil] dB; nil if unknown
      def gain_db(join)
        return join.gain_db unless join.level

        level = @decibels[join.level]
        return if level.nan?

        level.finite? && level == level.round ? level.round : level
      end

      # @return [Numo::DFloat] amplitude of each slot, 0 if unknown, with a 1 appended for joins without a level (place -1)
      def amplitudes
        factors = 10**(@decibels / 20)
        factors[factors.isnan] = 0
        factors.concatenate(Numo::DFloat[1])
      end

      # @param joins [Array<Join>] a path
      # @return [Numeric, nil] total gain in dB; nil if a part is unknown
      def along(joins)
        gains = joins.map { |join| gain_db(join) }
        gains.sum unless gains.include?(nil)
      end
    end
  end
end
