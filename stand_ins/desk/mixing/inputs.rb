# frozen_string_literal: true

module Loomshuttle
  module StandIns
    module Desk
      # The source of each channel lane: the input patch, and which channels are on take.
      class Inputs
        # For each channel lane the socket at its preamp, -1 for none; and channel lane => card return that it hears instead (-1: none).
        # @return [Array<Integer>, Hash{Integer=>Integer}]
        attr_reader :stage_lanes, :from_card

        # @param model [Model]   @param settings [Settings]
        def initialize(model, settings)
          @model, @settings = model, settings
          @card_lanes = model.modes.fetch(settings.get("card/mode"))
          @stage_lanes, @from_card = [], {}
          slots = slots()
          model.channels.each do |strip|
            stage = stage_of(strip.number, slots)
            take = hears(strip.number) == "take" ? take_of(strip.number) : nil
            (0...strip.width).each { |side| plan_lane(strip.first_lane + side, stage, take, side) }
          end
        end

        # A lane beyond the card's mode, or an unknown name, is silent.
        # @return [Integer] -1 for none
        def card_lane(name)
          number = name.to_s[/\d+\z/].to_i
          number.between?(1, @card_lanes) ? number - 1 : -1
        end

        # @param strip [Model::Channel]
        # @return [Array<Integer>] sockets whose preamps it uses
        def sockets(strip) = @stage_lanes[strip.first_lane, strip.width].reject(&:negative?)

        private

        def plan_lane(lane, stage, take, side)
          @stage_lanes[lane] = stage && !stage.start_with?("card/") ? socket(@model.behind(stage, side)) : -1
          card = take || (stage if stage&.start_with?("card/"))
          @from_card[lane] = card == "" ? -1 : card_lane(@model.behind(card, side)) if card
        end

        def socket(name)
          kind, number = name.to_s.split("/")
          return @model.sockets.index(name) || -1 unless @model.ports.include?(kind)

          box = @model.boxes.find { |one| one.port == kind && (number.to_i - offset(one)).between?(1, one.inputs) } or return -1
          box.first_socket + number.to_i - offset(box) - 1
        end

        def offset(box) = @settings.get("box/#{box.port}/#{box.place}/in-offset")

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
      end
    end
  end
end
