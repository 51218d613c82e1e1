# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The sources and gains of all mixes. Built again when a setting changes, and only for mixes in use.
      class MixPlan
        # Lanes that go into a mix from one tap, and their gains as a column.
        Sum = Struct.new(:taken_at, :lanes, :gains)
        # A mix: sums of channel lanes; other mixes with their gains; its own equaliser, and its fader and mute as one gain.
        Mix = Struct.new(:sums, :mixes, :tilt, :gain)

        # trims: column of the channels' trims, negative where the polarity is turned, nil where all are 1; tilts: of their equalisers; open: 0 where a mute before the fader is
        # closed, nil where none is; faders: column
        # mixes: [kind, index] => Mix, in an order in which each comes after those that feed it
        attr_reader :trims, :tilts, :open, :faders, :mixes

        # @param model [Model]   @param settings [Settings]
        # @param heard [Array<Array(Symbol, Integer)>] mixes that a send, output or meter needs
        def initialize(model, settings, heard)
          @model, @settings = model, settings
          @trims = unless_ones(column { |at| (on?("#{at}/polarity") ? -1.0 : 1.0) * (has?("#{at}/trim") ? Audio::Level.amplitude(get("#{at}/trim")) : 1.0) })
          @tilts = column { |at| get("#{at}/tilt") }
          @open = unless_ones(column { |at| @model.mix.mute_at == "pre-fader" && on?("#{at}/mute") ? 0.0 : 1.0 })
          @faders = column { |at| on?("#{at}/mute") ? 0.0 : level("#{at}/fader") }
          plan(heard)
        end

        private

        def unless_ones(column) = column.eq(1).all? ? nil : column
        def get(address) = @settings.get(address)
        def has?(address) = @settings.has?(address)
        def on?(address) = has?(address) && get(address) == 1

        def level(address)
          decibels = get(address)
          decibels <= -90 ? 0.0 : Audio::Level.amplitude(decibels)
        end

        def each_lane = @model.channels.flat_map { |strip| (0...strip.width).map { |lane| yield("strip/#{strip.number}", strip, lane) } }
        def column(&) = Numo::DFloat[*each_lane(&)].expand_dims(1)

        # Matrices hear mains and buses, and mains hear buses: from the end to the beginning.
        def plan(heard)
          matrices = pick(heard, :matrix) { |index| matrix(index) }
          mains = all_mains
          asked = heard + [*matrices.values, *mains.values].flat_map { |mix| mix.mixes.keys }
          @mixes = pick(asked, :bus) { |index| bus(index) }.merge(mains, matrices)
        end

        def pick(heard, kind) = heard.select { |one, _| one == kind }.uniq.to_h { |_, index| [[kind, index], yield(index)] }

        # The left bus of a pair has the say for both.
        def leader(index) = index.odd? && on?("bus/#{index}/pair") ? index - 1 : index
        def paired?(leader) = on?("bus/#{leader + 1}/pair")

        def bus(index)
          leader = leader(index)
          at = "bus/#{leader + 1}"
          side = index - leader if paired?(leader)
          group = has?("#{at}/mode") && get("#{at}/mode") == "subgroup"
          sends = each_lane do |strip, channel, lane|
            send = "#{strip}/bus/#{leader + 1}"
            [group ? "post-fader" : tap(send), amount(group, send) * placed(side, strip, channel, lane)]
          end
          Mix.new(sums(sends), {}, get("#{at}/tilt"), master(at))
        end

        def tap(send) = has?("#{send}/tap") ? get("#{send}/tap") : @model.mix.send_taps.first

        # A subgroup's sends have no level of their own.
        def amount(group, send)
          return level(send) unless group

          on?("#{send}/on") ? 1.0 : 0.0
        end

        # A mono mix takes all lanes as they are.
        def placed(side, strip, channel, lane)
          return 1.0 if side.nil?
          return Pan.mono(get("#{strip}/pan"), side, @model.mix.pan_power) if channel.width == 1

          lane == side ? Pan.balance(get("#{strip}/pan"), side) : 0.0
        end

        def master(at) = on?("#{at}/mute") ? 0.0 : level("#{at}/fader")

        def all_mains
          @model.mains.each.with_index.to_h do |name, index|
            side = %w[l r].index(name)
            [[:main, index], Mix.new(side ? sums(into_main(side)) : [], side ? buses_into(side) : {}, get("main/tilt"), master("main"))]
          end
        end

        def into_main(side)
          each_lane { |strip, channel, lane| ["post-fader", on?("#{strip}/main") ? placed(side, strip, channel, lane) : 0.0] }
        end

        def buses_into(side)
          return {} unless @model.mix.bus_to_main

          (0...@model.buses).each_with_object({}) do |index, found|
            leader = leader(index)
            at = "bus/#{leader + 1}"
            next unless on?("#{at}/main")

            gain = bus_in_main(index - leader, paired?(leader), get("#{at}/pan"), side)
            found[[:bus, index]] = gain unless gain.zero?
          end
        end

        def bus_in_main(own, paired, pan, side)
          return Pan.mono(pan, side, @model.mix.pan_power) unless paired

          own == side ? Pan.balance(pan, side) : 0.0
        end

        def matrix(index)
          at = "matrix/#{index + 1}"
          buses = (0...@model.buses).to_h { |bus| [[:bus, bus], level("#{at}/bus/#{bus + 1}")] }
          mains = @model.mains.each.with_index.to_h { |name, main| [[:main, main], level("#{at}/main/#{name}")] }
          Mix.new([], buses.merge(mains).reject { |_, gain| gain.zero? }, get("#{at}/tilt"), master(at))
        end

        # @param lanes [Array<Array(String, Float)>] tap and gain of each
        def sums(lanes)
          lanes.each.with_index.reject { |(_, gain), _| gain.zero? }.group_by { |(tap, _), _| tap }.map do |tap, members|
            Sum.new(tap, members.map(&:last), Numo::DFloat[*members.map { |(_, gain), _| gain }].expand_dims(1))
          end
        end
      end
    end
  end
end
