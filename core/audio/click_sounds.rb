# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Audio
    # Synthesised click sounds. They are short, so that one ends before the next, and start at their loudest, so that ear and beat tracker find
    # their exact time.
    module ClickSounds
      NAMES = %w[wood pin shell reed].freeze
      SECONDS = 0.05
      # Accents are higher and louder, subdivisions softer.
      PITCH, LEVEL = { "accent" => 1.5, "beat" => 1.0, "between" => 1.0 }.freeze, { "accent" => 0.9, "beat" => 0.63, "between" => 0.32 }.freeze

      class << self
        # @param name [String] of NAMES   @param kind ["accent", "beat", "between"]   @param rate [Integer]
        # @return [Numo::DFloat] full scale 1.0
        # @raise [Invalid]
        def of(name, kind, rate)
          raise Invalid.new("There is no click sound #{Text.readable(name, most: 40)}; known are #{NAMES.join(', ')}.", where: "sound") unless NAMES.include?(name)

          time = Numo::DFloat.new((SECONDS * rate).round).seq / rate
          shape = send(name, time, PITCH.fetch(kind)) * begun(time)
          shape / shape.abs.max * LEVEL.fetch(kind)
        end

        private

        # From nothing to full in half a millisecond, without a step.
        def begun(time) = (time / 0.0005).clip(0, 1)

        def falling(time, seconds) = Numo::NMath.exp(-time / seconds)
        def tone(time, hertz) = Numo::NMath.sin(time * (2 * Math::PI * hertz))

        def wood(time, pitch) = (tone(time, 1050 * pitch) + (tone(time, 1730 * pitch) * 0.6)) * falling(time, 0.008)
        def pin(time, pitch) = tone(time, 2100 * pitch) * falling(time, 0.012)
        def reed(time, pitch) = [1, 3, 5].sum { |nth| tone(time, 620 * pitch * nth) / nth } * falling(time, 0.014)

        # Noise that is the same each time.
        def shell(time, pitch)
          random = Random.new(7)
          Numo::DFloat[*Array.new(time.size) { random.rand(-1.0..1.0) }] * falling(time, 0.006 / pitch)
        end
      end
    end
  end
end
