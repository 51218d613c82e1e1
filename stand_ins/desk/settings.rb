# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # The desk's settings by address (docs/desk-control.md), and what each accepts. Not safe for several threads by
      # itself: the desk's one loop reads and sets.
      class Settings
        class Refused < StandardError; end

        # @return [Integer] grows with every change, so that the mixer knows when to look again
        attr_reader :revision

        def initialize(model)
          @model = model
          @values = {}
          @kinds = {}
          @revision = 0
          model.channels.each { |channel| add_channel(channel) }
          (1..model.sends).each { |lane| add_send(lane) }
          add("card/mode", model.modes.keys.first) { |value| one_of(value, model.modes.keys) }
        end

        # @return [Array<String>]
        def addresses = @values.keys

        # @raise [Refused] for an unknown address
        def get(address) = @values.fetch(address) { raise Refused, "this desk has no #{address}" }

        # @return [Object] the value as kept
        # @raise [Refused] saying why
        def set(address, value)
          get(address)
          kept = @kinds.fetch(address).call(value)
          @revision += 1 unless kept == @values[address]
          @values[address] = kept
        end

        private

        def add(address, start, &accept)
          @values[address] = start
          @kinds[address] = accept
        end

        def add_channel(channel)
          at = "strip/#{channel.number}"
          add("#{at}/label", "") { |value| text(value, 40) }
          add("#{at}/label/short", "") { |value| text(value, 6) }
          add("#{at}/dye", "iron") { |value| text(value, 16) }
          add("#{at}/stage", "") { |value| source(channel, value, @model.sockets) }
          add("#{at}/take", "") { |value| source(channel, value, (1..@model.returns).map { |n| "card/#{n}" }) }
          add("#{at}/hears", "stage") { |value| one_of(value, %w[stage take]) }
          add("#{at}/gain", [channel.gain_range.min, 0].max.to_f) { |value| gain(channel, value) }
          add("#{at}/tilt", 0.25) { |value| number(value, -0.9..0.9) }
          add("#{at}/fader", -6.0) { |value| number(value, -90..10) }
          (1..@model.buses).each { |bus| add("#{at}/bus/#{bus}", -90.0) { |value| number(value, -90..10) } }
        end

        def add_send(lane)
          add("card/send/#{lane}/from", "") { |value| send_source(value) }
          add("card/send/#{lane}/tap", @model.taps.first) { |value| one_of(value, @model.taps) }
        end

        def text(value, length)
          raise Refused, "text of at most #{length} characters is needed" unless value.is_a?(String) && value.length <= length

          value
        end

        def one_of(value, known)
          return value if known.include?(value)

          raise Refused, "#{value.inspect} is not one of #{known.first} to #{known.last}"
        end

        def number(value, range)
          raise Refused, "a number from #{range.min} to #{range.max} is needed" unless value.is_a?(Numeric) && range.cover?(value)

          value.to_f
        end

        def gain(channel, value)
          number(value, channel.gain_range)
          raise Refused, "the preamp has steps of #{channel.gain_step} dB" unless (value % channel.gain_step).zero?

          value.to_f
        end

        def source(channel, value, known)
          return value if value == ""

          one_of(value, known)
          at = known.index(value)
          fits = channel.width == 1 || (value[/\d+\z/].to_i.odd? && known[at + 1])
          raise Refused, "a stereo channel needs an odd lane with its neighbour" unless fits

          value
        end

        def send_source(value)
          known = value == "" || (value.is_a?(String) && (known_channel?(value) || known_mix?(value)))
          raise Refused, "there is no #{value.inspect} to send" unless known

          value
        end

        def known_channel?(value) = value.match?(%r{\Ach/\d+(/[lr])?\z}) && !@model.lane(value).nil?

        def known_mix?(value)
          kind, which = value.split("/")
          (kind == "bus" && (1..@model.buses).cover?(which.to_i)) || (kind == "main" && @model.mains.include?(which))
        end
      end
    end
  end
end
