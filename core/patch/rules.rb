# frozen_string_literal: true

module Loomshuttle
  module Patch
    # Which values a setting accepts. One method a setting; each returns the value to keep or says why it cannot be.
    module Rules
      NAME_LENGTH = 40
      SHORT_LENGTH = 6
      BUFFERS = [512, 1024, 2048, 4096].freeze

      # @param show [Show]
      # @param place [Place]
      # @return [Object] the value, frozen
      # @raise [Invalid] naming the path
      def self.check(show, place, value)
        send(:"#{place.group}_#{place.field}", show, place, value).freeze
      end

      class << self
        private

        def channels_name(_show, place, value) = text(place, value, NAME_LENGTH)
        def channels_short(_show, place, value) = text(place, value, SHORT_LENGTH)
        def channels_colour(_show, place, value) = one_of(place, value, DYES)
        def channels_position(_show, place, value) = one_of(place, value, POSITIONS)

        def channels_stage(show, place, value)
          return nil if value.nil?

          socket = one_of(place, value, show.profile.input_sockets)
          pair(show, place, socket, show.profile.input_sockets) { |number| socket.sub(/\d+\z/, number.to_s) }
        end

        def channels_take(show, place, value)
          return nil if value.nil?

          returns = (1..show.profile.returns).map { |n| "card/return/#{n}" }
          pair(show, place, one_of(place, value, returns), returns) { |number| "card/return/#{number}" }
        end

        # A stereo channel takes an odd lane and its neighbour.
        def pair(show, place, source, known)
          return source if show.profile.strip(place.number).width == 1

          number = source[/\d+\z/].to_i
          return source if number.odd? && known.include?(yield(number + 1))

          refuse(place, "channel #{place.number} is stereo and needs an odd lane with its neighbour, not #{Rig::Label.for(source)}")
        end

        def channels_gain(show, place, value)
          preamp = show.profile.strip(place.number).preamp
          refuse(place, "a preamp gain is a number of dB") unless value.is_a?(Numeric)
          range = preamp.min_db..preamp.max_db
          refuse(place, "the preamp goes from #{range.min} to #{range.max} dB, not #{value}") unless range.cover?(value)
          refuse(place, "the preamp has steps of #{preamp.step_db} dB") unless (value % preamp.step_db).zero?

          value
        end

        def sends_source(show, place, value)
          return nil if value.nil?

          base = one_of(place, value, show.profile.all_channel_points + show.profile.mix_points)
          taps = show.profile.taps_of(base)
          return base if taps.include?(place.item.tap)

          refuse(place, "#{Rig::Label.for(base)} can be taken at #{taps.join(' or ')} only; set the tap first")
        end

        def sends_tap(show, place, value)
          one_of(place, value, place.item.source ? show.profile.taps_of(place.item.source) : show.profile.taps)
        end

        def tracks_name(_show, place, value) = text(place, value, NAME_LENGTH)
        def tracks_armed(_show, place, value) = boolean(place, value)
        def tracks_inputs(show, place, value) = lanes(place, value, show.profile.sends)
        def tracks_outputs(show, place, value) = lanes(place, value, show.profile.returns)

        def tracks_stereo(_show, place, value)
          boolean(place, value)
          track = place.item
          return value if [track.inputs, track.outputs].all? { |lanes| [0, value ? 2 : 1].include?(lanes.size) }

          refuse(place, "its input and output lanes must change with it; set them in the same edit, emptied first")
        end

        def lanes(place, value, count)
          width = place.item.width
          fits = value.is_a?(Array) && [0, width].include?(value.size) && value.uniq.size == value.size
          refuse(place, "needs #{width == 1 ? 'one lane' : 'two different lanes'}, or none") unless fits
          unknown = value.reject { |lane| lane.is_a?(Integer) && lane.between?(1, count) }
          refuse(place, "the card has lanes 1 to #{count}, not #{unknown.join(', ')}") unless unknown.empty?

          value
        end

        def setup_card_mode(show, place, value) = one_of(place, value, show.profile.card_modes.keys)
        def setup_buffer(_show, place, value) = one_of(place, value, BUFFERS)
        def setup_bits(_show, place, value) = one_of(place, value, [24])

        def text(place, value, length)
          refuse(place, "must be text") unless value.is_a?(String)
          clean = value.encode("UTF-8").strip
          refuse(place, "has characters that cannot be shown") if !clean.valid_encoding? || clean.match?(/[[:cntrl:]]/)
          refuse(place, "has #{clean.length} characters, #{length} fit") if clean.length > length

          clean
        end

        def boolean(place, value)
          return value if [true, false].include?(value)

          refuse(place, "must be true or false")
        end

        def one_of(place, value, known)
          return value if known.include?(value)

          shown = known.size > 8 ? "#{known.first} to #{known.last}" : known.join(", ")
          refuse(place, "#{value.inspect} is not one of #{shown}")
        end

        def refuse(place, why) = raise(Invalid.new("#{place.path}: #{why}.", where: place.path))
      end
    end
  end
end
