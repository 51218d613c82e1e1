# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The settings as the mixer needs them: which lane goes where with which gain. Made anew when a setting changes.
      class Plan
        # What goes into a mix: channel lanes, and their gains as a row.
        Sum = Struct.new(:lanes, :gains)

        CENTRE = Math.sqrt(0.5)

        # stage_lanes: for each channel lane the socket at its preamp, -1 for none; from_card: channel lane => card return
        # that it hears instead (-1: none); gains, tilts, faders: rows; buses: bus => Sum, those that somebody hears;
        # mains: a Sum each; sends: lane, tap, kind, index; outputs: number, kind, index; fed_sockets: socket => output
        attr_reader :stage_lanes, :from_card, :gains, :tilts, :faders, :buses, :mains, :sends, :outputs, :fed_sockets

        def initialize(model, settings)
          @model = model
          @settings = settings
          @strips = model.channels
          @card_lanes = model.modes.fetch(settings.get("card/mode"))
          plan_inputs
          @gains = row { |at| Audio::Level.amplitude(settings.get("#{at}/gain")) }
          @tilts = row { |at| settings.get("#{at}/tilt") }
          @faders = row { |at| level(settings.get("#{at}/fader")) }
          @sends = plan_sends
          @outputs = plan_outputs
          @buses = plan_buses
          @mains = plan_mains
          @fed_sockets = plan_sockets
        end

        private

        def each_lane = @strips.flat_map { |strip| [yield("strip/#{strip.number}")] * strip.width }
        def row(&) = Numo::DFloat[*each_lane(&)].reshape(1, @model.lanes)

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

        def plan_buses
          heard = (@sends.map { |send| send.last(2) } + @outputs.map { |output| output.last(2) }).filter_map { |kind, index| index if kind == :bus }
          heard.uniq.to_h { |index| [index, sum(each_lane { |at| level(@settings.get("#{at}/bus/#{index + 1}")) })] }
        end

        # A mono channel goes to left and right 3 dB lower, a stereo one left and right.
        def plan_mains
          @model.mains.map { |main| sum(@strips.flat_map { |strip| (0...strip.width).map { |lane| pan(strip.width, lane, main) } }) }
        end

        def sum(gains)
          lanes = gains.each_index.reject { |lane| gains[lane].zero? }
          Sum.new(lanes, lanes.empty? ? nil : Numo::DFloat[gains.values_at(*lanes)])
        end

        def pan(width, lane, main)
          side = %w[l r].index(main) or return 0.0
          return CENTRE if width == 1

          side == lane ? 1.0 : 0.0
        end

        def plan_sends
          (1..[@model.sends, @card_lanes].min).filter_map do |lane|
            from = @settings.get("card/send/#{lane}/from")
            [lane - 1, @settings.get("card/send/#{lane}/tap"), *mix_index(from)] unless from == ""
          end
        end

        def plan_outputs
          (1..@model.mix_outputs).filter_map do |output|
            from = @settings.get("output/#{output}/from")
            [output, *mix_index(from)] unless from == ""
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
          fed = @outputs.to_h { |output, _, _| [output, true] }
          @model.outlets.each_with_object({}) do |outlets, found|
            (1..outlets.count).each do |number|
              block, at = (number - 1).divmod(outlets.block)
              first = @settings.get("outlet/#{outlets.id}/#{block + 1}/first")
              output = first + at
              sockets_of(outlets.id, number).each { |name| found[name] = output } if first.positive? && fed[output]
            end
          end
        end

        def sockets_of(id, number)
          return ["#{id}/#{number}"] unless @model.ports.include?(id)

          @model.boxes.select { |box| box.port == id && (number - offset(box, "out")).between?(1, box.outputs) }
            .map { |box| "#{box.port}.#{box.place}/#{number - offset(box, 'out')}" }
        end

        def level(decibels) = decibels <= -90 ? 0.0 : Audio::Level.amplitude(decibels)
      end
    end
  end
end
