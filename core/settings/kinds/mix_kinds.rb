# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Kinds of values of the mix.
    module MixKinds
      # Desks that have something of their own for it.
      GROUPED = ->(desk, _) { desk.mixing.subgroups }
      ON_MAIN = ->(desk, _) { desk.mixing.bus_to_main }
      PAIRED = ->(desk, bus) { desk.mixing.pairs && bus.odd? && bus < desk.buses }
      TAPPED = ->(desk, _) { desk.mixing.output_taps.size > 1 }
      DELAYED = ->(desk, _) { desk.mixing.delay_ms.positive? }
      TURNED = ->(desk, _) { desk.mixing.polarity }

      class << self
        # A list of bus numbers.
        def buses
          kind = ValueKind.new({ "type" => "array", "uniqueItems" => true, "maxItems" => 128, "items" => { "type" => "integer", "minimum" => 1 } }) do |value, at|
            count = at.show.profile.buses
            fits = value.is_a?(Array) && value.uniq.size == value.size && value.all? { |bus| bus.is_a?(Integer) && bus.between?(1, count) }
            fits ? value.sort : Kinds.refuse("a list of different buses is needed, 1 to #{count}")
          end
          Kinds.where_able(kind, [], "subgroups", &:subgroups)
        end

        def mode = Kinds.where_able(Kinds.one_of("mix", "subgroup"), "mix", "subgroups", &:subgroups)
        def bus_on_main = Kinds.where_able(Kinds.boolean, false, "buses on main", &:bus_to_main)
        def turned = Kinds.where_able(Kinds.boolean, false, "polarity inversion on outputs", &:polarity)

        # Taps of single sends: number of the bus, as text => tap.
        def send_taps
          schema = { "type" => "object", "maxProperties" => 128, "additionalProperties" => { "type" => "string" } }
          ValueKind.new(schema) do |value, at|
            desk = at.show.profile
            named = value.is_a?(Hash) && value.keys.all? { |bus| bus.is_a?(String) && bus.match?(/\A[1-9]\d{0,2}\z/) }
            Kinds.refuse("taps of sends are given by the number of their bus") unless named
            unknown = value.keys.map(&:to_i).reject { |bus| bus <= desk.buses }
            Kinds.refuse("there is no bus #{unknown.first} here") if unknown.any?
            value.sort_by { |bus, _| bus.to_i }.to_h.each_value { |tap| Kinds.member(tap, desk.mixing.send_taps) }
          end
        end

        # Whether a bus is the left side of a pair: an odd bus (common practice, no published source).
        def paired
          kind = Kinds.boolean.also do |value, at|
            next value if !value || (at.key.odd? && at.key < at.show.profile.buses)

            Kinds.refuse("a pair is an odd bus and the next one")
          end
          Kinds.where_able(kind, false, "pairs of buses", &:pairs)
        end

        # A point that an output or a personal lane can carry.
        def carried
          Kinds.point { |at| at.show.profile.known(:output_points) }
        end

        # Any tap that the desk's outputs offer; Show#point_of_output decides which one counts.
        def output_tap = Kinds.tap_of { |at| at.show.profile.mixing.output_taps }

        # A delay in samples.
        def delay
          ValueKind.new({ "type" => "integer", "minimum" => 0, "maximum" => 200_000 }) do |value, at|
            longest = at.show.profile.mixing.longest_delay(at.show.rate)
            Kinds.refuse("a delay is a whole number of samples") unless value.is_a?(Integer) && !value.negative?
            Kinds.refuse("outputs of the #{at.show.profile.name} have no delay") if longest.zero? && value.positive?
            Kinds.refuse("an output is delayed by #{longest} samples at most, not by #{value}") if value > longest
            value
          end
        end
      end
    end
  end
end
