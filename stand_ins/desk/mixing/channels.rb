# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The way of the channels from their preamps to their faders. 24-bit integers up to the equaliser, floats behind it; a preamp clips at full
      # scale as a converter does. A lane is a row. The working arrays are reused, because arrays in the processor's cache are three times as fast as new
      # ones; a result is therefore valid only until the next block.
      class Channels
        # @param lanes [Integer]
        def initialize(lanes)
          @lasts = Numo::DFloat.zeros(lanes)
        end

        # Sets what to process from now on. @param plan [Plan]   @param mix [MixPlan]
        def follow(plan, mix)
          @plan, @mix = plan, mix
        end

        # @param stage [Numo::DFloat] [sockets, frames]   @param card [Numo::Int32] [returns, frames]
        # @return [Hash{String=>Numo::Int32, Numo::DFloat}] tap => [lanes, frames]; "channel-in as float" holds the input at full scale 1.0
        def process(stage, card)
          work_in([@plan.heard_sockets.size, card.shape[1]])
          preamp = preamp(stage)
          inside = replace(preamp, card)
          heard = scaled(inside)
          pre_eq = @mix.trims ? copy(:trimmed, heard) * @mix.trims : heard
          post_eq = equalise(pre_eq)
          before_fader = @mix.open ? copy(:opened, post_eq) * @mix.open : post_eq
          { "preamp" => preamp, "channel-in" => inside, "channel-in as float" => heard, "pre-eq" => pre_eq, "post-eq" => post_eq, "pre-fader" => before_fader,
            "post-fader" => copy(:faded, before_fader) * @mix.faders }
        end

        private

        def work_in(shape)
          return if @shape == shape

          @shape, @rooms = shape, {}
        end

        def room(name, kind = Numo::DFloat) = @rooms[name] ||= kind.new(*@shape).allocate

        # @return [Numo::DFloat] a copy to be changed in place
        def copy(name, block) = room(name).tap { |there| there.store(block) }.inplace

        def preamp(stage)
          louder = copy(:scaled, stage[@plan.heard_sockets, true]) * @plan.gains
          room(:preamp, Numo::Int32).tap { |there| there.store(Audio::Pcm24.round(louder)) }
        end

        # What channels hear from the card, instead of their preamps.
        def replace(preamp, card)
          return preamp if @plan.from_card.empty?

          room(:inside, Numo::Int32).tap do |inside|
            inside.store(preamp)
            @plan.from_card.each { |lane, from| inside[lane, true] = from.negative? ? 0 : card[from, true] }
          end
        end

        # Full scale 1.0: a power of two, so that nothing is rounded.
        def scaled(inside) = copy(:heard, inside) * (1.0 / Audio::Pcm24::FULL_SCALE)

        # A first-order tilt: treble against bass. Any filter would do that makes pre-EQ and post-EQ differ.
        def equalise(block)
          tilted = copy(:tilted, block) * @mix.tilts
          copy(:equalised, block).tap do |out|
            take_off(out[true, 1..-1], tilted[true, 0...-1])
            take_off(out[true, 0], @lasts * @mix.tilts[true, 0])
            @lasts = block[true, -1].dup
          end
        end

        def take_off(from, what) = from.inplace - what
      end
    end
  end
end
