# frozen_string_literal: true

module Loomshuttle
  module Signal
    # The desk's mix as levels of joins. Values have a mixing engineer's names, whatever the desk calls them:
    #   "channel/7/fader", "channel/7/mute", "channel/7/pan", "channel/7/send/3"     dB, true or false, -1 to 1, dB
    #   "bus/3/fader", "bus/3/mute", "bus/3/pan", "main/fader", "main/mute", "matrix/2/fader", "matrix/2/mute"
    #   "matrix/2/bus/3", "matrix/2/main/l", "output/4/trim", "output/4/mute"
    class MixedLevels
      OFF = -90
      NOTHING = -Float::INFINITY

      # @param show [Settings::Show]   @param values [Hash{String=>Object}]
      def initialize(show, values)
        @desk = show.profile
        @mix = Mix.new(show)
        @power = show.profile.mixing.pan_power
        @mute_before = show.profile.mixing.mute_at == "pre-fader"
        @values = values
        @pans, @sends = @desk.memo(:pan_names) { [] }, @desk.memo(:send_names) { [] }
      end

      # @param name [Array] in LevelSlots, except preamps and trims, which are planned
      # @return [Float, nil] dB; -Infinity for silence; nil if unknown
      def level(name)
        kind, one, other = name
        case kind # not by pattern, which takes three times as long, and a large desk has 12,000 of them
        when :send then sent(one, other)
        when :equaliser then 0
        when :mute then @mute_before ? unmuted("channel/#{one}") : 0
        when :fader then master("channel/#{one}")
        when :pan then placed(one, other, pan_of(one.number))
        when :bus_pan then bus_pan(one, other)
        when :matrix then fader("matrix/#{one}/#{other.kind}/#{other.number || other.side}")
        when :master then master(address(one))
        when :output then sum(@values["output/#{one}/trim"], unmuted("output/#{one}"))
        else raise ArgumentError, "no level #{name.inspect}"
        end
      end

      # @param name [String] of a value
      # @return [Array<Array>] names in LevelSlots of all levels that depend on it
      def hanging_on(name)
        kind, number, what, other = name.split("/")
        return @desk.mains.map { |side| [:master, Rig::Point.main(side)] } if kind == "main"

        number = number.to_i
        case kind
        when "channel" then of_channel(number, what, other.to_i)
        when "bus" then of_bus(number, what)
        when "matrix" then %w[fader mute].include?(what) ? [[:master, Rig::Point.desk("matrix", number)]] : [[:matrix, number, Rig::Point.of("desk/#{what}/#{other}")]]
        else [[:output, number]]
        end
      end

      private

      def of_channel(number, what, bus)
        lanes = @desk.channel_points(number)
        case what
        when "fader" then [[:fader, number]]
        when "mute" then [[:mute, number], [:fader, number]]
        when "send" then lanes.product(both(bus)).map { |base, one| [:send, base, one] }
        else
          pairs = (1..@desk.buses).select { |one| @mix.side(one) }
          lanes.product(@desk.mains).map { |base, side| [:pan, base, side] } + lanes.product(pairs).map { |base, one| [:send, base, one] }
        end
      end

      def of_bus(bus, what)
        return both(bus).map { |one| [:master, Rig::Point.desk("bus", one)] } unless what == "pan"

        both(bus).product(@desk.mains).map { |one, side| [:bus_pan, one, side] }
      end

      # A bus, and the right one of the pair that it leads.
      def both(bus) = [bus, bus + 1].select { |one| one <= @desk.buses && @mix.leader(one) == bus }

      def address(base)
        case base.kind
        when "main" then "main"
        when "bus" then "bus/#{@mix.leader(base.number)}"
        else "matrix/#{base.number}"
        end
      end

      def fader(name)
        decibels = @values[name] or return
        decibels <= OFF ? NOTHING : decibels
      end

      MUTED = { true => NOTHING, false => 0 }.freeze
      private_constant :MUTED

      def unmuted(at) = MUTED[@values["#{at}/mute"]]

      # Names of values, made once for a kind of desk.
      def pan_of(number) = @pans[number] ||= "channel/#{number}/pan"
      def send_of(number, bus) = (@sends[number] ||= [])[bus] ||= "channel/#{number}/send/#{bus}"

      # What is silent for one reason is silent, whatever else is not known.
      def sum(*levels)
        return NOTHING if levels.include?(NOTHING)

        levels.sum unless levels.include?(nil)
      end

      def master(at) = sum(fader("#{at}/fader"), unmuted(at))

      def sent(base, bus)
        leader, side = @mix.leader(bus), @mix.side(bus)
        amount = @mix.group?(bus) ? 0 : fader(send_of(base.number, leader))
        side ? sum(amount, placed(base, side, pan_of(base.number))) : amount
      end

      def placed(base, side, pan)
        return NOTHING if side == "c" || (base.side && base.side != side)

        at = @values[pan] or return
        base.side ? Pan.balance(at, side) : Pan.mono(at, side, @power)
      end

      def bus_pan(bus, side)
        own = @mix.side(bus)
        at = @values["bus/#{@mix.leader(bus)}/pan"] or return
        return Pan.mono(at, side, @power) unless own

        own == side ? Pan.balance(at, side) : NOTHING
      end
    end
  end
end
