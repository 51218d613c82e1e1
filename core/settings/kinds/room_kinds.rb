# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Kinds of values of listeners and positions.
    module RoomKinds
      # What a wish may be about: a channel, with all that it hears, or a card return that no channel hears.
      SOURCE = %r{\A(?:channel|return)/[1-9]\d{0,3}\z}
      # Outputs that one listener hears with an ear, and entries of a wish.
      MOST = 64

      class << self
        # A number in steps of a fraction of a unit, or none.
        # @param range [Range] in the unit   @param steps [Integer] steps per unit   @param unit [String] for people
        def figure(range, steps, unit)
          ValueKind.new({ "type" => "number", "minimum" => range.min, "maximum" => range.max }, sort: :number) do |value, _|
            fits = (value.is_a?(Integer) || (value.is_a?(Float) && value.finite?)) && range.cover?(value)
            Kinds.refuse("a number of #{unit} from #{range.min} to #{range.max} is needed, not #{value.inspect[0, 40]}") unless fits
            whole = (value * steps).round
            (whole % steps).zero? ? whole / steps : whole.fdiv(steps)
          end
        end

        # A coordinate in metres, to the centimetre, from the middle of the stage's front edge.
        def metres = figure(-500..500, 100, "metres").or_none

        # A list of names of outputs and personal lanes.
        def heard
          schema = { "type" => "array", "maxItems" => MOST, "uniqueItems" => true, "items" => { "type" => "string" } }
          ValueKind.new(schema, sort: :outlets) do |value, at|
            Kinds.refuse("what somebody hears is a list of different outputs, #{MOST} at most") unless different?(value)
            value.each { |name| known_outlet(name, at.show.profile) }
          end
        end

        def sources
          ValueKind.new({ "type" => "array", "maxItems" => MOST, "uniqueItems" => true, "items" => { "type" => "string" } }, sort: :sources) do |value, _|
            fits = different?(value) && value.all? { |id| id.is_a?(String) && SOURCE.match?(id) }
            fits ? value : Kinds.refuse("sources are a list such as channel/7 or return/31, #{MOST} at most")
          end
        end

        # A list of listener keys, possibly of removed ones.
        def listeners
          ValueKind.new({ "type" => "array", "maxItems" => MOST, "uniqueItems" => true, "items" => { "type" => "integer", "minimum" => 1 } }, sort: :listeners) do |value, _|
            fits = different?(value) && value.all? { |key| key.is_a?(Integer) && key.between?(1, 99_999) }
            fits ? value : Kinds.refuse("listeners are a list of their numbers, #{MOST} at most")
          end
        end

        private

        def different?(value) = value.is_a?(Array) && value.size <= MOST && value.uniq.size == value.size

        def known_outlet(name, desk)
          point = Rig::Point.read(name)
          most = { "output" => desk.mix_outputs, "personal" => desk.personal_lanes }[point&.kind].to_i
          return if point&.device == "desk" && point.number.to_i.between?(1, most) && point == point.base && point.side.nil?

          Kinds.refuse("#{name.inspect[0, 60]} is not an output or personal mix of the #{desk.name}")
        end
      end
    end
  end
end
