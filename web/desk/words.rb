# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # The plan in the desk's own words and back (docs/desk-control.md). Where a desk patches in blocks, one of its
      # settings stands for several of the plan's, so plans are translated whole. Tracks and the recorder's setup are
      # none of the desk's business and have no words here.
      class Words
        CHANNEL = { "name" => "label", "short" => "label/short", "colour" => "dye", "gain" => "gain", "phantom" => "phantom" }.freeze

        # @param show [Settings::Show]
        # @param mirror [Hash{String=>Object}] what the desk is set to: who has a free slot there keeps it, so that an edit
        #   of one channel moves no other one from slot to slot
        # @return [Hash{String=>Object}] desk address => value, for all of the plan that the desk knows
        def self.plan(show, mirror = {}) = new(show, mirror).plan

        # @param show [Settings::Show]
        # @param mirror [Hash{String=>Object}] desk address => value
        # @return [Hash{String=>Object}] path => value as the plan would keep it, as far as the mirror tells
        def self.read(show, mirror) = Reader.new(show, mirror).settings

        def initialize(show, mirror)
          @show = show
          @mirror = mirror
          @desk = show.profile
        end

        def plan
          channels.merge(patching(:stage), patching(:take), positions, sends, outputs, boxes,
                         "card/mode" => @show.setup.card_mode, "clock/rate" => @show.rate)
        end

        # @return [String] a source of the plan ("link/a/up/17") as the desk names it ("a/17")
        def self.source(point) = point.to_s.sub(%r{\Alink/([a-z])/up/}, '\1/').sub("card/return/", "card/").delete_prefix("desk/")

        private

        def channels
          @show.channels.values.flat_map do |channel|
            CHANNEL.map { |field, word| ["strip/#{channel.number}/#{word}", value(channel[field])] }
          end.to_h
        end

        def value(one)
          case one
          when true then 1
          when false then 0
          when Integer then one.to_f
          else one
          end
        end

        def patching(field)
          size = field == :stage ? @desk.stage_block : @desk.take_block
          return @show.channels.values.to_h { |channel| ["strip/#{channel.number}/#{field}", Words.source(channel[field])] } if size == 1

          derived = Settings::Blocks.derive(@show, field)
          blocks = derived.first.to_h { |block, first| ["block/#{block}/#{field}", Words.source(first)] }
          field == :stage ? blocks.merge(slots(derived.free)) : blocks
        end

        def slots(free)
          kept = (1..@desk.free_slots).to_h { |slot| [slot, @mirror["slot/#{slot}/strip"].to_i] }.select { |_, number| free.key?(number) }
            .to_a.uniq(&:last).to_h
          waiting = free.keys - kept.values
          (1..@desk.free_slots).flat_map do |slot|
            number = kept.fetch(slot) { waiting.shift }
            [["slot/#{slot}/strip", number || 0], ["slot/#{slot}/from", Words.source(free[number])]]
          end.to_h
        end

        def positions
          return @show.channels.values.to_h { |channel| ["strip/#{channel.number}/hears", channel.position] } unless @desk.flip == "block"

          Settings::Blocks.new(@show, :take).members.each.with_index(1).to_h { |numbers, block| ["block/#{block}/hears", @show.channels[numbers.first].position] }
        end

        def sends
          @show.sends.values.flat_map do |send|
            [["card/send/#{send.lane}/from", Words.source(send.source)], ["card/send/#{send.lane}/tap", @show.tap_of(send)]]
          end.to_h
        end

        def outputs
          outputs = @show.outputs.values.to_h { |output| ["output/#{output.number}/from", Words.source(output.source)] }
          outlets = @show.outlets.values.to_h { |outlet| ["outlet/#{outlet.block.sub('-', '/')}/first", outlet.first.to_i] }
          buses = @show.buses.values.to_h { |bus| ["bus/#{bus.number}/label", bus.name] }
          outputs.merge(outlets, buses)
        end

        # The desk knows its boxes by port and place in the chain.
        def boxes
          @desk.ports.flat_map do |port|
            @show.layout.chain(port).each.with_index(1).flat_map do |hung, place|
              [["box/#{port}/#{place}/in-offset", hung.up.min - 1], ["box/#{port}/#{place}/out-offset", hung.down.min - 1]]
            end
          end.to_h
        end
      end
    end
  end
end
