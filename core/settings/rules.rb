# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Which values a setting accepts. One method a setting; each returns the value to keep or says why it cannot be.
    module Rules
      NAME_LENGTH = 40
      SHORT_LENGTH = 6
      WORDS_LENGTH = 60
      PATH_LENGTH = 200
      BUFFERS = [128, 256, 512, 1024, 2048, 4096].freeze
      LONGEST_SHOW = 24 * 60
      # Findings that can be accepted at once.
      ACCEPTED = 500
      FOLLOWS = ["at once", "when sent"].freeze

      # Why a value cannot be.
      class Refusal < StandardError; end

      # @param show [Show]
      # @param place [Path]
      # @return [Object] the value, frozen
      # @raise [Invalid] naming the setting in words, with its path as where
      def self.check(show, place, value)
        send(:"#{place.group}_#{place.field}", show, place, value).freeze
      rescue Refusal => e
        raise Invalid.new("#{Telling.setting(show, place.path)}: #{e.message}.", where: place.path)
      end

      class << self
        private

        def channels_name(_show, _place, value) = text(value, NAME_LENGTH)
        def channels_short(_show, _place, value) = text(value, SHORT_LENGTH)
        def channels_colour(_show, _place, value) = one_of(value, DYES)
        def channels_position(_show, _place, value) = one_of(value, POSITIONS)

        def channels_stage(show, place, value)
          return nil if value.nil?

          source = one_of(value, show.profile.stage_names)
          pair(show, place, source, show.profile.stage_names) { |number| source.sub(/\d+\z/, number.to_s) }
        end

        def channels_take(show, place, value)
          return nil if value.nil?

          returns = show.profile.return_points
          pair(show, place, one_of(value, returns), returns) { |number| "card/return/#{number}" }
        end

        # A stereo channel takes an odd lane and its neighbour.
        def pair(show, place, source, known)
          return source if show.profile.strip(place.number).width == 1

          number = source[/\d+\z/].to_i
          return source if number.odd? && known.include?(yield(number + 1))

          refuse("channel #{place.number} is stereo and needs an odd lane with its neighbour, not #{Rig::Label.for(source)}")
        end

        def channels_gain(show, place, value)
          preamp = show.profile.strip(place.number).preamp
          refuse("a preamp gain is a number of dB") unless value.is_a?(Integer) || (value.is_a?(Float) && value.finite?)
          range = preamp.min_db..preamp.max_db
          refuse("the preamp goes from #{signed(range.min)} to #{range.max} dB, not #{signed(value)}") unless range.cover?(value)
          refuse("the preamp has steps of #{preamp.step_db} dB") unless (value % preamp.step_db).zero?

          value
        end

        def channels_phantom(_show, _place, value) = boolean(value)
        def channels_fixed(_show, _place, value) = boolean(value)
        def channels_mic(_show, _place, value) = text(value, WORDS_LENGTH)
        def channels_stand(_show, _place, value) = text(value, WORDS_LENGTH)
        def channels_spot(_show, _place, value) = value.nil? ? nil : one_of(value, SPOTS)

        # The left of a pair is an odd channel, as everywhere in the trade.
        def channels_paired(show, place, value)
          return value unless boolean(value)

          partner = show.profile.strip(place.number + 1)
          return value if place.number.odd? && partner&.width == 1 && show.profile.strip(place.number).width == 1

          refuse("a pair is an odd channel and the next one, both mono")
        end

        def sends_source(show, place, value)
          return nil if value.nil?

          base = one_of(value, show.profile.all_channel_points + show.profile.mix_points)
          taps = show.profile.taps_of(base)
          return base if place.item.tap.nil? || taps.include?(place.item.tap)

          refuse("#{Rig::Label.for(base)} can be taken at #{taps.join(' or ')} only; set the tap first")
        end

        def sends_tap(show, place, value)
          return nil if value.nil?

          one_of(value, place.item.source ? show.profile.taps_of(place.item.source) : show.profile.taps)
        end

        def tracks_name(_show, _place, value) = text(value, NAME_LENGTH)
        def tracks_colour(_show, _place, value) = value.nil? ? nil : one_of(value, DYES)
        def tracks_shares(_show, _place, value) = text(value, NAME_LENGTH)
        def tracks_armed(_show, _place, value) = boolean(value)
        def tracks_inputs(show, place, value) = lanes(place, value, show.profile.sends)
        def tracks_outputs(show, place, value) = lanes(place, value, show.profile.returns)

        def tracks_stereo(_show, place, value)
          boolean(value)
          track = place.item
          return value if [track.inputs, track.outputs].all? { |lanes| [0, value ? 2 : 1].include?(lanes.size) }

          refuse("its input and output lanes must change with it; set them in the same edit, emptied first")
        end

        def lanes(place, value, count) = lane_list(value, place.item.width, count)

        def lane_list(value, width, count)
          fits = value.is_a?(Array) && [0, width].include?(value.size) && value.uniq.size == value.size
          refuse("needs #{width == 1 ? 'one lane' : 'two different lanes'}, or none") unless fits
          unknown = value.reject { |lane| lane.is_a?(Integer) && lane.between?(1, count) }
          refuse("the card has lanes 1 to #{count}, not #{unknown.join(', ')[0, 60]}") unless unknown.empty?

          value
        end

        def setup_card_mode(show, _place, value) = one_of(value, show.profile.card_modes.keys)
        def setup_buffer(_show, _place, value) = one_of(value, BUFFERS)
        def setup_bits(_show, _place, value) = one_of(value, [24, 32])
        def setup_default_tap(show, _place, value) = one_of(value, show.profile.taps)
        def setup_desk_follows(_show, _place, value) = one_of(value, FOLLOWS)
        def setup_own_mix(show, _place, value) = lane_list(value, 2, show.profile.returns)

        def setup_mirror(_show, _place, value)
          path = text(value, PATH_LENGTH)
          return path if path.empty? || path.start_with?("/")

          refuse("a folder starts with /, such as /media/disk/takes")
        end

        def setup_monitoring(_show, _place, value) = one_of(value, %w[desk computer])
        def setup_alignment(_show, _place, value) = one_of(value, LineCheck::Alignment::LEVELS.keys)
        def setup_length_minutes(_show, _place, value) = whole(value, 1..LONGEST_SHOW)

        def setup_accepted(_show, _place, value)
          fits = value.is_a?(Hash) && value.size <= ACCEPTED && value.all? { |id, reason| id.is_a?(String) && id.length <= 200 && reason.is_a?(String) && !reason.strip.empty? }
          refuse("each accepted finding needs a reason in words") unless fits

          value.transform_values { |reason| text(reason, 200).freeze }
        end

        def rig_desk(show, place, value) = show.catalog.fetch("desk", value, where: place.path).id
        def rig_rate(show, _place, value) = one_of(value, show.profile.rates)
        def rig_desk_clock(_show, _place, value) = one_of(value, CLOCKS)
        def rig_recorder_clock(_show, _place, value) = one_of(value, CLOCKS)
        def rig_interface(show, place, value) = value.nil? ? nil : show.catalog.fetch("interface", value, where: place.path).id

        def boxes_profile(show, place, value) = value.nil? ? nil : show.catalog.fetch("box", value, where: place.path).id
        def boxes_port(show, _place, value) = value.nil? ? nil : one_of(value, show.profile.ports)
        def boxes_place(_show, _place, value) = whole(value, 1..LETTERS.size)
        def boxes_input_offset(_show, _place, value) = whole(value, 0...Rig::Aes50::LANES)
        def boxes_output_offset(_show, _place, value) = whole(value, 0...Rig::Aes50::LANES)
        def boxes_clock(_show, _place, value) = one_of(value, CLOCKS)
        def boxes_spot(_show, _place, value) = value.nil? ? nil : one_of(value, SPOTS)

        def buses_name(_show, _place, value) = text(value, NAME_LENGTH)
        def outputs_source(show, _place, value) = value.nil? ? nil : one_of(value, show.profile.mix_points)

        def outputs_expected(_show, _place, value)
          return value if value.nil? || (value.is_a?(String) && value.match?(%r{\A(desk|box-[a-h])/[a-z]+/\d+\z}))

          refuse("an expected socket reads like box-b/out/7")
        end

        # A block starts with an output that is a whole number of blocks from the first.
        def outlets_first(show, place, value)
          return nil if value.nil?

          size = show.profile.outlet_blocks.fetch(place.number).size
          starts = (1..show.profile.mix_outputs).step(size).to_a
          one_of(value, starts)
        end

        def whole(value, range)
          return value if value.is_a?(Integer) && range.cover?(value)

          refuse("a whole number from #{range.min} to #{range.max} is needed, not #{value.inspect[0, 60]}")
        end

        def text(value, length)
          refuse("must be text") unless value.is_a?(String)
          refuse("has characters that cannot be shown") unless value.encoding == Encoding::UTF_8 && value.valid_encoding? && !value.match?(/[[:cntrl:]]/)
          clean = value.unicode_normalize(:nfc).strip
          refuse("has #{clean.length} characters, #{length} fit") if clean.length > length

          clean
        end

        def boolean(value)
          return value if [true, false].include?(value)

          refuse("must be true or false")
        end

        def one_of(value, known)
          return value if known.include?(value)

          refuse("this desk has none") if known.empty?
          shown = known.size > 8 ? "#{known.first} to #{known.last}" : known.join(", ")
          refuse("#{value.inspect[0, 60]} is not one of #{shown}")
        end

        def signed(number) = number.to_s.sub("-", "−")
        def refuse(why) = raise(Refusal, why)
      end
    end
  end
end
