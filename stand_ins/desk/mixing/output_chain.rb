# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The processing of an output: trim, polarity, mute, and a delay that keeps running while its length changes.
      class OutputChain
        # @param model [Model]   @param settings [Settings]
        def initialize(model, settings)
          @model, @settings = model, settings
          @lines, @chains = {}, {}
        end

        # Reads the settings again.
        # @param numbers [Array<Integer>] outputs in use; the delay lines of others are dropped
        def keep(numbers)
          @chains = numbers.to_h { |number| [number, [gain("output/#{number}"), get("output/#{number}/delay", 0)]] }
          @lines.select! { |number, _| @chains.key?(number) }
        end

        # @param number [Integer] one of those given to keep   @param block [Numo::DFloat] [frames]
        # @return [Numo::DFloat]
        def process(number, block)
          gain, delay = @chains.fetch(number)
          out = gain == 1 ? block : block * gain
          return out.tap { @lines.delete(number) } if delay.zero?

          line = @lines[number] ||= DelayLine.new(@model.mix.longest_delay)
          line.pass(out.expand_dims(1), delay)[true, 0]
        end

        def delays? = @lines.any?

        private

        def get(address, otherwise) = @settings.has?(address) ? @settings.get(address) : otherwise

        def gain(at)
          return 0.0 if get("#{at}/mute", 0) == 1

          (get("#{at}/polarity", 0) == 1 ? -1 : 1) * Audio::Level.amplitude(get("#{at}/trim", 0.0))
        end
      end
    end
  end
end
