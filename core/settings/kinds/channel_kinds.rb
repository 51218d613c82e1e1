# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Kinds of values that only channels have.
    module ChannelKinds
      class << self
        # A source of a channel; a stereo channel takes an odd lane and the next one.
        # @param list [Symbol] of the desk's lists: possible sources
        def source(list)
          Kinds.point { |at| at.show.profile.known(list) }.also do |point, at|
            desk = at.show.profile
            next point if desk.strip(at.key).width == 1 || (point.number.odd? && desk.known(list).include?(point.beside(1)))

            Kinds.refuse("channel #{at.key} is stereo and needs an odd lane with its neighbour, not #{Rig::Label.for(point)}")
          end.or_none
        end

        # A level in dB, within a range and in its steps.
        # @param name [:preamp, :trim] of the strip
        def level(name)
          ValueKind.new({ "type" => "number" }, sort: :number) do |value, at|
            Kinds.refuse("a #{name} is set by a number of dB") unless value.is_a?(Integer) || (value.is_a?(Float) && value.finite?)
            known = at.show.profile.strip(at.key)[name] || Rig::Preamp.new(min_db: 0, max_db: 0, step_db: 1)
            range = known.min_db..known.max_db
            Kinds.refuse("the #{name} goes from #{signed(range.min)} to #{range.max} dB, not #{signed(value)}") unless range.cover?(value)
            Kinds.refuse("the #{name} has steps of #{known.step_db} dB") unless (value % known.step_db).zero?
            value
          end
        end

        # Whether a channel is the left side of a pair: an odd channel (common practice, no published source).
        def paired
          Kinds.boolean.also do |value, at|
            width = ->(number) { at.show.profile.strip(number)&.width }
            next value if !value || (at.key.odd? && [at.key, at.key + 1].all? { |number| width.call(number) == 1 })

            Kinds.refuse("a pair is an odd channel and the next one, both mono")
          end
        end

        private

        def signed(number) = number.to_s.sub("-", "−")
      end
    end
  end
end
