# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # The desk's settings by address (docs/desk-control.md), and what each accepts. Not safe for several threads by
      # itself: the desk's one loop reads and sets.
      class Settings
        include MixSettings
        include OutputSettings

        class Refused < StandardError; end

        # @return [Integer] grows with every change, so that the mixer knows when to look again
        attr_reader :revision

        def initialize(model)
          @model = model
          @values = {}
          @kinds = {}
          @revision = 0
          model.channels.each { |channel| add_channel(channel) }
          add_patching
          (1..model.sends).each { |lane| add_send(lane) }
          add_mix
          add_outputs
          model.boxes.each { |box| add_box(box) }
          add("card/mode", model.modes.keys.first) { |value| one_of(value, model.modes.keys) }
          add("clock/rate", model.rate) { |value| rate(value) }
        end

        # @return [Array<String>]
        def addresses = @values.keys

        def has?(address) = @values.key?(address)

        # @raise [Refused] for an unknown address
        def get(address) = @values.fetch(address) { raise Refused, "this desk has no #{address}" }

        # @return [Object] the stored value
        # @raise [Refused] says why
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
          add("#{at}/stage", "") { |value| source(channel, value, @model.input_names.keys) } if @model.stage_block == 1
          add("#{at}/take", "") { |value| source(channel, value, returns) } if @model.take_block == 1
          add("#{at}/hears", "stage") { |value| one_of(value, %w[stage take]) } unless @model.flip == "block"
          add("#{at}/gain", [channel.gain_range.min, 0].max.to_f) { |value| stepped(value, channel.gain_range, channel.gain_step) }
          add("#{at}/trim", 0.0) { |value| stepped(value, channel.trim_range, channel.trim_step) } if channel.trim_range
          add("#{at}/phantom", 0) { |value| one_of(value, [0, 1]) }
          add("#{at}/tilt", 0.25) { |value| number(value, -0.9..0.9) }
          add_into_mixes(at)
        end

        # Desks that patch in blocks: the first source of each block, and slots for single channels.
        def add_patching
          blocks(@model.stage_block) do |block, size|
            add("block/#{block}/stage", "") { |value| block_source(value, size, @model.input_names.keys) }
          end
          (1..@model.free_slots).each do |slot|
            add("slot/#{slot}/strip", 0) { |value| one_of(value, (0..@model.channels.size).to_a) }
            add("slot/#{slot}/from", "") { |value| value == "" ? value : one_of(value, @model.input_names.keys) }
          end
          blocks(@model.take_block) do |block, size|
            add("block/#{block}/take", "") { |value| block_source(value, size, returns) }
            add("block/#{block}/hears", "stage") { |value| one_of(value, %w[stage take]) } if @model.flip == "block"
          end
        end

        def blocks(size) = size > 1 && (1..(@model.channels.size / size.to_f).ceil).each { |block| yield block, size }
        def returns = (1..@model.returns).map { |n| "card/#{n}" }

        def block_source(value, size, known)
          return value if value == ""

          one_of(value, known)
          raise Refused, "a block starts at 1, #{size + 1}, #{(2 * size) + 1} and so on" unless value[/\d+\z/].to_i % size == 1

          value
        end

        def add_box(box)
          at = "box/#{box.port}/#{box.place}"
          { "in" => box.in_offset, "out" => box.out_offset }.each do |way, start|
            add("#{at}/#{way}-offset", start) { |value| one_of(value, (0...Model::LINK_LANES).to_a) }
          end
        end

        # The rate is chosen when the desk starts.
        def rate(value)
          raise Refused, "this desk runs at #{@model.rates.join(' or ')}" unless @model.rates.include?(value)
          raise Refused, "the rate changes at a restart with another rig file; it runs at #{@model.rate}" unless value == @model.rate

          value
        end

        def add_send(lane)
          add("card/send/#{lane}/from", "") { |value| send_source(value) }
          add("card/send/#{lane}/tap", @model.taps.first) { |value| one_of(value, @model.taps) }
        end

        def text(value, length)
          raise Refused, "text of at most #{length} characters is needed" unless value.is_a?(String) && value.encoding != Encoding::BINARY && value.length <= length

          value
        end

        def one_of(value, known)
          return value if known.include?(value)

          raise Refused, "#{value.inspect[0, 60]} is not one of #{known.first} to #{known.last}"
        end

        def switch(address, start = 0) = add(address, start) { |value| one_of(value, [0, 1]) }
        def decibels(address, start, range = -90..10) = add(address, start) { |value| number(value, range) }

        def number(value, range)
          raise Refused, "that is not a number" if value.is_a?(Float) && !value.finite?
          raise Refused, "a number from #{range.min} to #{range.max} is needed" unless value.is_a?(Numeric) && range.cover?(value)

          value.to_f
        end

        def stepped(value, range, step)
          number(value, range)
          raise Refused, "it has steps of #{step} dB" unless (value % step).zero?

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
          raise Refused, "there is no #{value.inspect[0, 60]} to send" unless known

          value
        end

        def known_channel?(value) = value.match?(%r{\Ach/\d+(/[lr])?\z}) && !@model.lane(value).nil?

        def known_mix?(value)
          return false unless value.match?(%r{\A[a-z]+/[a-z0-9-]{1,20}\z})

          kind, which = value.split("/")
          return @model.mains.include?(which) if kind == "main"

          { "bus" => @model.buses, "matrix" => @model.matrices }.fetch(kind, 0) >= which.to_i && which.to_i.positive?
        end
      end
    end
  end
end
