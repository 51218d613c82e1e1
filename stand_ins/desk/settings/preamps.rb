# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # Channels on one socket share its preamp: setting one sets all, and a channel that is patched to a socket takes the settings there.
      class Preamps
        KNOB = %r{\Astrip/(\d+)/(gain|phantom)\z}
        PATCH = %r{\A(?:strip/\d+/stage|block/\d+/stage|slot/\d+/(?:strip|from)|box/.+/in-offset)\z}
        KNOBS = %w[gain phantom].freeze

        # @param model [Model]   @param settings [Settings]
        def initialize(model, settings)
          @model, @settings = model, settings
        end

        # @param address [String] set by the block
        # @yield to set it
        # @return [Array(Object, Hash{String=>Object})] the block's result, and further addresses to set with it
        def along(address)
          before = PATCH.match?(address) ? Inputs.new(@model, @settings) : nil
          kept = yield
          _, number, knob = *KNOB.match(address)
          return [kept, knob ? turned(@model.channels[number.to_i - 1], knob) : {}] unless before

          [kept, patched(before, Inputs.new(@model, @settings))]
        end

        private

        def turned(strip, knob)
          inputs = Inputs.new(@model, @settings)
          mine = inputs.sockets(strip)
          like(strip, @model.channels.select { |one| one != strip && inputs.sockets(one).intersect?(mine) }, knob)
        end

        # Who is new at a socket, and who was there.
        def patched(before, now)
          new, old = @model.channels.partition { |strip| now.sockets(strip) != before.sockets(strip) }
          new.each_with_object({}) do |strip, found|
            there = old.find { |one| now.sockets(one).intersect?(now.sockets(strip)) } or next
            KNOBS.each { |knob| found.merge!(like(there, [strip], knob)) }
          end
        end

        # @return [Hash{String=>Object}] what must be set so that others are as one is, as far as they can
        def like(strip, others, knob)
          value = @settings.get("strip/#{strip.number}/#{knob}")
          others.select { |one| knob == "phantom" || one.gain_range.cover?(value) }.map { |one| "strip/#{one.number}/#{knob}" }
            .reject { |address| @settings.get(address) == value }.to_h { |address| [address, value] }
        end
      end
    end
  end
end
