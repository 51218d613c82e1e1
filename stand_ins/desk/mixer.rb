# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The desk's sound: sockets and card returns in, card sends and meter points out, on real samples. 24-bit
      # integers up to the equaliser, floats behind it; a preamp clips at full scale as a converter does.
      class Mixer
        # What one block yields: sends Int32 [frames, sends]; channels Int32 [frames, lanes] as heard at channel in;
        # mains DFloat [frames, mains]; outputs DFloat [frames, mix outputs]
        Result = Struct.new(:sends, :channels, :mains, :outputs)

        def initialize(model, settings)
          @model = model
          @settings = settings
          @revision = nil
          @last_sample = Numo::DFloat.zeros(1, model.lanes)
        end

        # @param stage [Numo::DFloat] [frames, sockets] before the preamps
        # @param returns [Numo::Int32] [frames, card returns]
        # @return [Result]
        def process(stage, returns)
          look_at_settings unless @revision == @settings.revision
          taps = channel_taps(stage, returns)
          mains = hstack(@plan.mains.map { |sum| mixdown(taps["post-fader"], sum) })
          mixes = { bus: @plan.buses.transform_values { |sum| mixdown(taps["pre-fader"], sum) }, main: mains }
          Result.new(sends(taps, mixes), taps["channel-in"], mains, outputs(mixes, mains.shape[0]))
        end

        # @param outputs [Numo::DFloat] of a Result
        # @return [Hash{String=>Numo::DFloat}] what comes out of each socket that is fed: "out/3", "a.2/7"
        def at_sockets(outputs)
          look_at_settings unless @revision == @settings.revision
          @plan.fed_sockets.transform_values { |output| outputs[true, output - 1] }
        end

        private

        def channel_taps(stage, returns)
          preamp = Audio::Pcm24.from_float(pick(stage, @plan.stage_lanes) * @plan.gains)
          inside = preamp.dup
          @plan.from_card.each { |lane, from| inside[true, lane] = from.negative? ? 0 : returns[true, from] }
          pre_eq = Audio::Pcm24.to_float(inside)
          post_eq = equalise(pre_eq)
          { "preamp" => preamp, "channel-in" => inside, "pre-eq" => pre_eq, "post-eq" => post_eq, "pre-fader" => post_eq,
            "post-fader" => post_eq * @plan.faders }
        end

        # A first-order tilt: treble against bass. Any filter would do that makes pre-EQ and post-EQ differ.
        def equalise(block)
          before = @last_sample.concatenate(block[0...-1, true])
          @last_sample = block[-1..-1, true].dup
          block - (before * @plan.tilts)
        end

        # Lanes of a block by list; -1 is silence.
        def pick(block, lanes)
          out = block.class.zeros(block.shape[0], lanes.size)
          lanes.each_with_index { |from, to| out[true, to] = block[true, from] if from >= 0 && from < block.shape[1] }
          out
        end

        def sends(taps, mixes)
          out = Numo::Int32.zeros(taps["preamp"].shape[0], @model.sends)
          @plan.sends.each do |lane, tap, kind, index|
            from = kind == :ch ? taps[tap][true, index] : mix(mixes, kind, index)
            out[true, lane] = from.is_a?(Numo::Int32) ? from : Audio::Pcm24.from_float(from)
          end
          out
        end

        # Only the lanes that are in it: most are not.
        def mixdown(block, sum)
          sum.lanes.empty? ? Numo::DFloat.zeros(block.shape[0]) : (block[true, sum.lanes] * sum.gains).sum(axis: 1)
        end

        def hstack(columns) = Numo::DFloat.hstack(columns.map { |column| column.reshape(column.size, 1) })

        def outputs(mixes, frames)
          out = Numo::DFloat.zeros(frames, @model.mix_outputs)
          @plan.outputs.each { |output, kind, index| out[true, output - 1] = mix(mixes, kind, index) }
          out
        end

        # All matrices carry the main mix.
        def mix(mixes, kind, index)
          case kind
          when :bus then mixes[:bus].fetch(index)
          when :main then mixes[:main][true, index]
          else mixes[:main].sum(axis: 1) * Plan::CENTRE
          end
        end

        def look_at_settings
          @revision = @settings.revision
          @plan = Plan.new(@model, @settings)
        end
      end
    end
  end
end
