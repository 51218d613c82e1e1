# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # What an output does to what it carries: trim, polarity, mute, and a delay that goes on over changes of its length.
      class OutputChain
        # @param model [Model]   @param settings [Settings]
        def initialize(model, settings)
          @model, @settings = model, settings
          @rings, @places = {}, {}
        end

        # @param numbers [Array<Integer>] outputs that carry something; what others had in their delay is gone
        def keep(numbers) = @rings.select! { |number, _| numbers.include?(number) }

        # @param number [Integer]   @param block [Numo::DFloat] of frames
        # @return [Numo::DFloat]
        def process(number, block)
          late(number, block * gain("output/#{number}"), get("output/#{number}/delay", 0))
        end

        private

        def get(address, otherwise) = @settings.has?(address) ? @settings.get(address) : otherwise

        def gain(at)
          return 0.0 if get("#{at}/mute", 0) == 1

          (get("#{at}/polarity", 0) == 1 ? -1 : 1) * Audio::Level.amplitude(get("#{at}/trim", 0.0))
        end

        # What was put in stays there, so that a delay that is set has something to give from the start.
        def late(number, block, delay)
          return block if @model.mix.longest_delay.zero?

          ring = @rings[number] ||= Numo::DFloat.zeros(@model.mix.longest_delay + block.size)
          place = @places.fetch(number, 0)
          put(ring, place, block)
          @places[number] = (place + block.size) % ring.size
          take(ring, (place - delay) % ring.size, block.size)
        end

        def put(ring, place, block)
          first = [block.size, ring.size - place].min
          ring[place...(place + first)] = block[0...first]
          ring[0...(block.size - first)] = block[first..] if first < block.size
        end

        def take(ring, place, size)
          first = [size, ring.size - place].min
          return ring[place...(place + first)].dup if first == size

          ring[place...(place + first)].concatenate(ring[0...(size - first)])
        end
      end
    end
  end
end
