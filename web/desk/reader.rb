# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # What a desk is set to, as the plan would say it. Words the other way round.
      class Reader
        # @param show [Settings::Show]
        # @param mirror [Hash{String=>Object}]
        def initialize(show, mirror)
          @show = show
          @desk = show.profile
          @mirror = mirror
        end

        # @return [Hash{String=>Object}] path => value
        def settings
          [channels, patched(:stage), patched(:take), positions, sends, outputs, boxes, single("setup/card_mode", "card/mode"), single("rig/rate", "clock/rate")].reduce(:merge)
        end

        private

        def single(path, address) = @mirror.slice(address).to_h { |_, value| [path, value] }

        def each_known(list)
          list.each_with_object({}) do |(path, address), found|
            found[path] = yield(@mirror[address]) if @mirror.key?(address)
          end
        end

        def channels
          numbers = @show.channels.keys
          Words::CHANNEL.map do |field, word|
            each_known(numbers.map { |n| ["channel/#{n}/#{field}", "strip/#{n}/#{word}"] }) { |value| channel_value(field, value) }
          end.reduce(:merge)
        end

        def channel_value(field, value)
          case field
          when "phantom" then value == 1
          when "gain" then value == value.round ? value.round : value
          else value
          end
        end

        # @return [String, nil] the desk's name of a source as the plan names it
        def point(name, from_desk: false)
          return nil if name.nil? || name == ""

          kind, number = name.split("/", 2)
          return "link/#{kind}/up/#{number}" if @desk.ports.include?(kind)
          return "card/return/#{number}" if kind == "card" && !from_desk

          "desk/#{name}"
        end

        def patched(field)
          size = field == :stage ? @desk.stage_block : @desk.take_block
          return each_known(@show.channels.keys.map { |n| ["channel/#{n}/#{field}", "strip/#{n}/#{field}"] }) { |name| point(name) } if size == 1

          blocks = Settings::Blocks.new(@show, field)
          found = blocks.members.each.with_index(1).with_object({}) do |(numbers, block), settings|
            next unless @mirror.key?("block/#{block}/#{field}")

            first = point(@mirror["block/#{block}/#{field}"])
            numbers.each_with_index { |number, at| settings["channel/#{number}/#{field}"] = blocks.run(first, at) }
          end
          field == :stage ? found.merge(slots) : found
        end

        def slots
          (1..@desk.free_slots).filter_map do |slot|
            number = @mirror["slot/#{slot}/strip"].to_i
            ["channel/#{number}/stage", point(@mirror["slot/#{slot}/from"])] if number.positive?
          end.to_h
        end

        def positions
          return each_known(@show.channels.keys.map { |n| ["channel/#{n}/position", "strip/#{n}/hears"] }) { |value| value } unless @desk.flip == "block"

          Settings::Blocks.new(@show, :take).members.each.with_index(1).with_object({}) do |(numbers, block), found|
            heard = @mirror["block/#{block}/hears"] or next
            numbers.each { |number| found["channel/#{number}/position"] = heard }
          end
        end

        def sends
          sources = each_known(@show.sends.keys.map { |lane| ["send/#{lane}/source", "card/send/#{lane}/from"] }) { |name| point(name, from_desk: true) }
          taps = each_known(@show.sends.keys.map { |lane| ["send/#{lane}/tap", "card/send/#{lane}/tap"] }) { |tap| tap }
          sources.merge(taps.to_h { |path, tap| [path, own_tap(path, tap)] })
        end

        # A tap that the plan leaves to the show stays so where the desk says the same.
        def own_tap(path, tap)
          send = @show.sends[path.split("/")[1].to_i]
          tap == @show.tap_of(send) ? send.tap : tap
        end

        def outputs
          sources = each_known(@show.outputs.keys.map { |n| ["output/#{n}/source", "output/#{n}/from"] }) { |name| point(name, from_desk: true) }
          outlets = each_known(@show.outlets.keys.map { |block| ["outlet/#{block}/first", "outlet/#{block.sub('-', '/')}/first"] }) { |first| first.zero? ? nil : first }
          buses = each_known(@show.buses.keys.map { |n| ["bus/#{n}/name", "bus/#{n}/label"] }) { |name| name }
          sources.merge(outlets, buses)
        end

        def boxes
          @desk.ports.flat_map { |port| @show.layout.chain(port).each.with_index(1).map { |hung, place| [hung, "box/#{port}/#{place}"] } }
            .each_with_object({}) do |(hung, address), found|
              letter = hung.id.delete_prefix("box-")
              %w[in out].zip(%w[input_offset output_offset]).each do |way, field|
                found["box/#{letter}/#{field}"] = @mirror["#{address}/#{way}-offset"] if @mirror.key?("#{address}/#{way}-offset")
              end
            end
        end
      end
    end
  end
end
