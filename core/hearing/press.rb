# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Levels to set on the desk when somebody asks for it, since the mix belongs to the mixing engineer.
    #   label    for people      values   name of Signal::MixedLevels => value
    Press = Value.define(:label, :values)

    class Press
      # Decibels that faders and sends go to.
      RANGE = (Signal::MixedLevels::OFF..10)
      TRIM, PAN = (-60..20), (-1..1)

      # @param desk [Rig::Desk]   @param values [Hash] from outside
      # @return [Hash{String=>Object}] the same
      # @raise [Invalid] if the desk has no such level or the value is out of range
      def self.check(desk, values)
        known = LevelNames.of(desk)
        values.each do |name, value|
          known.include?(name) or raise Invalid.new("The #{desk.name} has no level \"#{Text.readable(name, most: 60)}\".", where: "values")
          fits?(name, value) or raise Invalid.new("#{name} cannot be #{value.inspect[0, 40]}.", where: name)
        end
      end

      def self.fits?(name, value)
        case name
        when %r{/mute\z} then [true, false].include?(value)
        when %r{/pan\z} then within?(PAN, value)
        when %r{/trim\z} then within?(TRIM, value)
        else within?(RANGE, value)
        end
      end
      private_class_method :fits?

      def self.within?(range, value) = (value.is_a?(Integer) || (value.is_a?(Float) && value.finite?)) && range.cover?(value)
      private_class_method :within?
    end
  end
end
