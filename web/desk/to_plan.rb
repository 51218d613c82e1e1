# frozen_string_literal: true

module Loomshuttle
  module Web
    module Desk
      # Translates the desk's settings into the plan: FromPlan in the other direction.
      class ToPlan
        # @param show [Settings::Show]
        # @param mirror [Hash{String=>Object}] desk address => value
        # @return [Hash{String=>Object}] path => value in the plan's form, as far as the mirror knows
        def self.settings(show, mirror) = new(show, mirror).settings

        def initialize(show, mirror)
          @show = show
          @desk = show.profile
          @mirror = mirror
        end

        def settings
          [declared("channel"), patched(:stage), patched(:take), positions, sends, declared("bus"), MixSends.to_plan(@show, @mirror), declared("output"),
           declared("outlet"), declared("personal"), boxes, declared("setup"), declared("rig")].reduce(:merge)
        end

        private

        def declared(name)
          Declared.of(@show, name).each_with_object({}) do |(path, address, sort), found|
            found[path] = Declared.to_plan(sort, @mirror[address]) { |source| point(source) } if @mirror.key?(address)
          end
        end

        def each_known(list)
          list.each_with_object({}) do |(path, address), found|
            found[path] = yield(@mirror[address]) if @mirror.key?(address)
          end
        end

        # @return [String, nil] the desk's name of a source as the plan names it
        def point(name)
          return nil if name.nil? || name == ""

          kind, number = name.split("/", 2)
          return "link/#{kind}/up/#{number}" if @desk.ports.include?(kind)
          return "card/return/#{number}" if kind == "card"

          "desk/#{name}"
        end

        def patched(field)
          size = field == :stage ? @desk.stage_block : @desk.take_block
          return each_known(@show.channels.keys.map { |n| ["channel/#{n}/#{field}", "strip/#{n}/#{field}"] }) { |name| point(name) } if size == 1

          blocks = Settings::Blocks.new(@show, field)
          found = blocks.members.each.with_index(1).with_object({}) do |(numbers, block), settings|
            next unless @mirror.key?("block/#{block}/#{field}")

            first = Rig::Point.read(point(@mirror["block/#{block}/#{field}"]))
            numbers.each_with_index { |number, at| settings["channel/#{number}/#{field}"] = blocks.run(first, at)&.name }
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
          taps = each_known(@show.sends.keys.map { |lane| ["send/#{lane}/tap", "card/send/#{lane}/tap"] }) { |tap| tap }
          declared("send").merge(taps.to_h { |path, tap| [path, own_tap(path, tap)] })
        end

        # A tap that the plan leaves to the show stays so where the desk says the same.
        def own_tap(path, tap)
          send = @show.sends[path.split("/")[1].to_i]
          tap == @show.tap_of(send) ? send.tap : tap
        end

        def boxes
          @desk.ports.flat_map { |port| @show.layout.chain(port).each.with_index(1).map { |hung, place| [hung, "box/#{port}/#{place}"] } }
            .each_with_object({}) do |(hung, address), found|
              %w[in out].zip(%w[input_offset output_offset]).each do |way, field|
                found["box/#{hung.letter}/#{field}"] = @mirror["#{address}/#{way}-offset"] if @mirror.key?("#{address}/#{way}-offset")
              end
            end
        end
      end
    end
  end
end
