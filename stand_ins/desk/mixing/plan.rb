# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The patch in the terms of the mixer: the source of each lane, send, output and socket. Built again when a setting changes. Gains are in
      # MixPlan.
      class Plan
        # heard_sockets: index of the socket at each channel lane's preamp; gains: of the preamps, a column, to samples of 24 bits, 0 where a lane has no socket
        # sends, outputs, personal: lists of Feed; fed_sockets: socket => [:outputs or :personal, number]
        attr_reader :heard_sockets, :gains, :sends, :outputs, :personal, :fed_sockets

        # What a send, output or personal lane carries: number, tap, kind of source, and its index there.
        Feed = Struct.new(:number, :taken_at, :kind, :index)

        def initialize(model, settings)
          @model = model
          @settings = settings
          @strips = model.channels
          @card_lanes = model.modes.fetch(settings.get("card/mode"))
          @inputs = Inputs.new(model, settings)
          @heard_sockets = stage_lanes.map { |socket| [socket, 0].max }
          gains = @strips.flat_map { |strip| [Audio::Level.amplitude(settings.get("strip/#{strip.number}/gain"))] * strip.width }
          @gains = Numo::DFloat[*gains.zip(stage_lanes).map { |gain, socket| socket.negative? ? 0.0 : gain * Audio::Pcm24::FULL_SCALE }].expand_dims(1)
          mix = model.mix
          @sends = feeds("card/send", [model.sends, @card_lanes].min, model.taps, %w[pre-fader post-fader])
          @outputs = feeds("output", model.mix_outputs, mix.channel_taps, mix.mix_taps)
          @personal = feeds("personal", mix.personal, mix.channel_taps, mix.mix_taps)
          @fed_sockets = plan_sockets
        end

        # As in Inputs.
        def stage_lanes = @inputs.stage_lanes
        def from_card = @inputs.from_card

        # @return [Array<Feed>]
        def feeds_of_all = @sends + @outputs + @personal

        private

        def offset(box, way) = @settings.get("box/#{box.port}/#{box.place}/#{way}-offset")
        def card_lane(name) = @inputs.card_lane(name)

        # A tap that does not fit its source becomes post-fader.
        def feeds(at, count, channel_taps, mix_taps)
          (1..count).filter_map do |number|
            from = @settings.get("#{at}/#{number}/from")
            next if from == "" || (from.start_with?("card/") && card_lane(from).negative?)

            tap = @settings.has?("#{at}/#{number}/tap") ? @settings.get("#{at}/#{number}/tap") : "post-fader"
            fits = from.start_with?("ch/") ? channel_taps : mix_taps
            Feed.new(number, fits.include?(tap) ? tap : "post-fader", *mix_index(from))
          end
        end

        def mix_index(from)
          kind, which = from.split("/")
          index = case kind
                  when "ch" then @model.lane(from)
                  when "main" then @model.mains.index(which)
                  else which.to_i - 1
                  end
          [kind.to_sym, index]
        end

        def plan_sockets
          fed = @outputs.to_h { |feed| [feed.number, true] }
          lanes = @personal.to_h { |feed| ["personal/#{feed.number}", [:personal, feed.number]] }
          @model.outlets.each_with_object(lanes) do |outlets, found|
            (1..outlets.count).each do |number|
              block, at = (number - 1).divmod(outlets.block)
              first = @settings.get("outlet/#{outlets.id}/#{block + 1}/first")
              output = first + at
              sockets_of(outlets.id, number).each { |name| found[name] = [:outputs, output] } if first.positive? && fed[output]
            end
          end
        end

        def sockets_of(id, number)
          return ["#{id}/#{number}"] unless @model.ports.include?(id)

          @model.boxes.select { |box| box.port == id && (number - offset(box, "out")).between?(1, box.outputs) }
            .map { |box| "#{box.port}.#{box.place}/#{number - offset(box, 'out')}" }
        end
      end
    end
  end
end
