# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The desk's sound: sockets and card returns in, card sends, outputs and meter points out, on real samples. 24-bit
      # integers up to the equaliser, floats behind it; a preamp clips at full scale as a converter does.
      class Mixer
        # What one block yields: sends Int32 [frames, sends]; channels Int32 [frames, lanes] as heard at channel in;
        # mains DFloat [frames, mains]; outputs DFloat [frames, mix outputs]; personal DFloat [frames, personal lanes]
        Result = Struct.new(:sends, :channels, :mains, :outputs, :personal)

        def initialize(model, settings)
          @model = model
          @settings = settings
          @revision = nil
          @last_sample = Numo::DFloat.zeros(1, model.lanes)
          @last_of_mix = {}
          @chain = OutputChain.new(model, settings)
          @boxes = StageBoxes.new(model)
        end

        # @param stage [Numo::DFloat] [frames, sockets] before the preamps
        # @param returns [Numo::Int32] [frames, card returns]
        # @return [Result]
        def process(stage, returns)
          look_at_settings unless @revision == @settings.revision
          heard = { ch: channel_taps(@boxes.arrive(stage), returns), card: returns }
          heard[:mixes] = mixes(heard[:ch], returns.shape[0])
          mains = @model.mains.each_index.map { |index| heard[:mixes][[:main, index]]["post-fader"] }
          Result.new(sends(heard), heard[:ch]["channel-in"], columns(mains), outputs(heard), personal(heard))
        end

        # @param result [Result]   @param before [Result, nil] of the block before
        # @return [Hash{String=>Numo::DFloat}] what comes out of each socket that is fed: "out/3", "a.2/7", "personal/5"
        def at_sockets(result, before)
          look_at_settings unless @revision == @settings.revision
          @plan.fed_sockets.to_h { |socket, (kind, number)| [socket, @boxes.leave(socket, before && before[kind][true, number - 1], result[kind][true, number - 1])] }
        end

        private

        def channel_taps(stage, returns)
          preamp = Audio::Pcm24.from_float(pick(stage, @plan.stage_lanes) * @plan.gains)
          inside = preamp.dup
          @plan.from_card.each { |lane, from| inside[true, lane] = from.negative? ? 0 : returns[true, from] }
          pre_eq = Audio::Pcm24.to_float(inside)
          pre_eq *= @mix.signs if @mix.signs
          post_eq = equalise(pre_eq)
          before_fader = @mix.open ? post_eq * @mix.open : post_eq
          { "preamp" => preamp, "channel-in" => inside, "pre-eq" => pre_eq, "post-eq" => post_eq, "pre-fader" => before_fader,
            "post-fader" => before_fader * @mix.faders }
        end

        # A first-order tilt: treble against bass. Any filter would do that makes pre-EQ and post-EQ differ.
        def equalise(block)
          before = @last_sample.concatenate(block[0...-1, true])
          @last_sample = block[-1..-1, true].dup
          block - (before * @mix.tilts)
        end

        # Lanes of a block by list; -1 is silence.
        def pick(block, lanes)
          out = block.class.zeros(block.shape[0], lanes.size)
          lanes.each_with_index { |from, to| out[true, to] = block[true, from] if from >= 0 && from < block.shape[1] }
          out
        end

        # @return [Hash{Array(Symbol, Integer)=>Hash{String=>Numo::DFloat}}] mix => tap => samples
        def mixes(channels, frames)
          @mix.mixes.each_with_object({}) do |(name, mix), done|
            sum = Numo::DFloat.zeros(frames)
            mix.sums.each { |part| sum += (floats(channels[part.taken_at][true, part.lanes]) * part.gains).sum(axis: 1) }
            mix.mixes.each { |from, gain| sum += done.fetch(from)["post-fader"] * gain }
            done[name] = mix_taps(name, mix, sum)
          end
        end

        def mix_taps(name, mix, sum)
          last = @last_of_mix.fetch(name, 0.0)
          @last_of_mix[name] = sum[-1]
          after = mix.tilt.zero? ? sum : sum - (Numo::DFloat[last].concatenate(sum[0...-1]) * mix.tilt)
          { "pre-eq" => sum, "post-eq" => after, "pre-fader" => after, "post-fader" => mix.gain == 1 ? after : after * mix.gain }
        end

        # What a send, output or lane carries, as samples of their kind.
        def carried(heard, feed)
          case feed.kind
          when :ch then heard[:ch][feed.taken_at][true, feed.index]
          when :card then heard[:card][true, feed.index]
          else heard[:mixes].fetch([feed.kind, feed.index])[feed.taken_at]
          end
        end

        def sends(heard)
          out = Numo::Int32.zeros(heard[:card].shape[0], @model.sends)
          @plan.sends.each do |feed|
            from = carried(heard, feed)
            out[true, feed.number - 1] = from.is_a?(Numo::Int32) ? from : Audio::Pcm24.from_float(from)
          end
          out
        end

        def outputs(heard)
          out = Numo::DFloat.zeros(heard[:card].shape[0], @model.mix_outputs)
          @plan.outputs.each { |feed| out[true, feed.number - 1] = @chain.process(feed.number, floats(carried(heard, feed))) }
          out
        end

        def personal(heard)
          out = Numo::DFloat.zeros(heard[:card].shape[0], @model.mix.personal)
          @plan.personal.each { |feed| out[true, feed.number - 1] = floats(carried(heard, feed)) }
          out
        end

        def floats(block) = block.is_a?(Numo::Int32) ? Audio::Pcm24.to_float(block) : block

        def columns(list) = Numo::DFloat.hstack(list.map { |column| column.reshape(column.size, 1) })

        def look_at_settings
          @revision = @settings.revision
          @plan = Plan.new(@model, @settings)
          @chain.keep(@plan.outputs.map(&:number))
          @mix = MixPlan.new(@model, @settings, @plan.feeds_of_all.map { |feed| [feed.kind, feed.index] })
        end
      end
    end
  end
end
