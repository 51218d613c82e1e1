# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Translates the plan into settings of the desk (docs/desk-control.md). On a desk that patches in blocks, one setting stands for several of
      # the plan, so plans are translated as a whole. Tracks and the recorder have no settings on the desk.
      class FromPlan
        # @param show [Settings::Show]
        # @param mirror [Hash{String=>Object}] settings of the desk: a channel with a free slot keeps that slot, so that an edit
        #   of one channel moves no other one from slot to slot
        # @return [Hash{String=>Object}] desk address => value, for everything in the plan that the desk knows
        def self.settings(show, mirror = {}) = new(show, mirror).settings

        # @return [Array<Integer>] the part of the mirror that matters: channels that have a free slot now
        def self.slots_of(show, mirror) = (1..show.profile.free_slots.to_i).map { |slot| mirror["slot/#{slot}/strip"].to_i }

        def initialize(show, mirror)
          @show = Settings::SharedPreamp.settled(show)
          @mirror = mirror
          @desk = show.profile
        end

        def settings
          # Patched first: a channel that comes to a socket finds its preamp as it is set there.
          patching(:stage).merge(patching(:take), declared("channel"), positions, sends, declared("bus"), MixSends.from_plan(@show),
                                 declared("output"), declared("outlet"), declared("personal"), boxes, declared("setup"), declared("rig"))
        end

        private

        # Most items are unchanged since the previous version, so the result is cached with the item.
        def declared(name)
          collection = Settings.collection(name)
          all = {}
          collection.each_item(@show.group(collection)) { |key, item| all.merge!(item.memo(:at_desk, @desk) { Declared.at_desk(@desk, collection, key, item) }) }
          all
        end

        def patching(field)
          size = field == :stage ? @desk.stage_block : @desk.take_block
          return @show.channels.values.to_h { |channel| ["strip/#{channel.number}/#{field}", Declared.source(channel[field])] } if size == 1

          derived = Settings::Blocks.derive(@show, field)
          blocks = derived.first.to_h { |block, first| ["block/#{block}/#{field}", Declared.source(first)] }
          field == :stage ? blocks.merge(slots(derived.free)) : blocks
        end

        def slots(free)
          kept = FromPlan.slots_of(@show, @mirror).each.with_index(1).to_h { |number, slot| [slot, number] }.select { |_, number| free.key?(number) }
            .to_a.uniq(&:last).to_h
          waiting = free.keys - kept.values
          (1..@desk.free_slots).flat_map do |slot|
            number = kept.fetch(slot) { waiting.shift }
            [["slot/#{slot}/strip", number || 0], ["slot/#{slot}/from", Declared.source(free[number])]]
          end.to_h
        end

        def positions
          return @show.channels.values.to_h { |channel| ["strip/#{channel.number}/hears", channel.position] } unless @desk.flip == "block"

          Settings::Blocks.new(@show, :take).members.each.with_index(1).to_h { |numbers, block| ["block/#{block}/hears", @show.channels[numbers.first].position] }
        end

        # With the tap that is meant where a send names none.
        def sends
          declared("send").merge(@show.sends.to_h { |lane, send| ["card/send/#{lane}/tap", @show.tap_of(send)] })
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
