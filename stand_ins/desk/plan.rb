# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The patch as the mixer needs it: which lane hears what, which send and output carries what, and which socket that comes out of. Made
      # anew when a setting changes; what is mixed with which gain is in MixPlan.
      class Plan
        # stage_lanes: for each channel lane the socket at its preamp, -1 for none; from_card: channel lane => card return
        # that it hears instead (-1: none); gains: a column; sends, outputs, personal: lists of Feed; fed_sockets: socket => [:outputs or
        # :personal, number]
        attr_reader :stage_lanes, :from_card, :gains, :sends, :outputs, :personal, :fed_sockets

        # What a send, output or personal lane carries: number, tap, kind of source, and its index there.
        Feed = Struct.new(:number, :taken_at, :kind, :index)

        def initialize(model, settings)
          @model = model
          @settings = settings
          @strips = model.channels
          @card_lanes = model.modes.fetch(settings.get("card/mode"))
          plan_inputs
          @gains = Numo::DFloat[*@strips.flat_map { |strip| [Audio::Level.amplitude(settings.get("strip/#{strip.number}/gain"))] * strip.width }].reshape(model.lanes, 1)
          mix = model.mix
          @sends = feeds("card/send", [model.sends, @card_lanes].min, model.taps, %w[pre-fader post-fader])
          @outputs = feeds("output", model.mix_outputs, mix.channel_taps, mix.mix_taps)
          @personal = feeds("personal", mix.personal, mix.channel_taps, mix.mix_taps)
          @fed_sockets = plan_sockets
        end

        # @return [Array<Feed>]
        def feeds_of_all = @sends + @outputs + @personal

        private

        def plan_inputs
          slots = slots()
          @stage_lanes, @from_card = [], {}
          @strips.each do |strip|
            stage = stage_of(strip.number, slots)
            take = hears(strip.number) == "take" ? take_of(strip.number) : nil
            (0...strip.width).each { |side| plan_lane(strip.first_lane + side, stage, take, side) }
          end
        end

        def plan_lane(lane, stage, take, side)
          @stage_lanes[lane] = stage && !stage.start_with?("card/") ? socket(@model.behind(stage, side)) : -1
          card = take || (stage if stage&.start_with?("card/"))
          @from_card[lane] = card == "" ? -1 : card_lane(@model.behind(card, side)) if card
        end

        # A lane beyond the card's mode is silent, as is a name that nothing is behind.
        def card_lane(name)
          number = name.to_s[/\d+\z/].to_i
          number.between?(1, @card_lanes) ? number - 1 : -1
        end

        def socket(name)
          kind, number = name.to_s.split("/")
          return @model.sockets.index(name) || -1 unless @model.ports.include?(kind)

          box = @model.boxes.find { |one| one.port == kind && (number.to_i - offset(one, "in")).between?(1, one.inputs) } or return -1
          box.first_socket + number.to_i - offset(box, "in") - 1
        end

        def offset(box, way) = @settings.get("box/#{box.port}/#{box.place}/#{way}-offset")

        def slots
          (1..@model.free_slots).to_h { |slot| [@settings.get("slot/#{slot}/strip"), @settings.get("slot/#{slot}/from")] }
        end

        def stage_of(number, slots)
          name = if slots.key?(number) then slots[number]
                 else patched(number, "stage", @model.stage_block)
                 end
          name == "" ? nil : name
        end

        # @return [String] "" where the channel hears nothing on take
        def take_of(number) = patched(number, "take", @model.take_block).to_s

        def patched(number, field, size)
          return @settings.get("strip/#{number}/#{field}") if size == 1

          block, at = (number - 1).divmod(size)
          first = @settings.get("block/#{block + 1}/#{field}")
          first == "" ? "" : @model.behind(first, at)
        end

        def hears(number)
          return @settings.get("strip/#{number}/hears") unless @model.flip == "block"

          @settings.get("block/#{((number - 1) / @model.take_block) + 1}/hears")
        end

        # Where a tap does not fit what is carried, the one after the fader is taken.
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
