# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The desk's sound: sockets and card returns in, card sends, outputs and meter points out, on real samples. 24-bit
      # integers up to the equaliser, floats behind it; a preamp clips at full scale as a converter does. Inside, a lane is a row,
      # which Numo reads and adds up many times faster than a column.
      class Mixer
        # What one block yields: sends Int32 [frames, sends]; channels Int32 [frames, lanes] as heard at channel in;
        # mains DFloat [frames, mains]; outputs DFloat [frames, mix outputs]; personal DFloat [frames, personal lanes]
        Result = Struct.new(:sends, :channels, :mains, :outputs, :personal)

        def initialize(model, settings)
          @model = model
          @settings = settings
          @revision = nil
          @last_sample = Numo::DFloat.zeros(model.lanes)
          @last_of_mix, @silences = {}, {}
          @chain = OutputChain.new(model, settings)
          @boxes = StageBoxes.new(model)
        end

        # @param stage [Numo::DFloat] [frames, sockets] before the preamps
        # @param returns [Numo::Int32] [frames, card returns]
        # @return [Result]
        def process(stage, returns)
          look_at_settings unless @revision == @settings.revision
          card = returns.transpose
          heard = { ch: channel_taps(@boxes.arrive(stage.transpose), card), card: card }
          heard[:mixes] = mixes(heard[:ch], card.shape[1])
          Result.new(sends(heard), heard[:ch]["channel-in"].transpose, mains(heard), outputs(heard), personal(heard))
        end

        # @param result [Result]   @param before [Result, nil] of the block before
        # @return [Hash{String=>Numo::DFloat}] what comes out of each socket that is fed: "out/3", "a.2/7", "personal/5"
        def at_sockets(result, before)
          look_at_settings unless @revision == @settings.revision
          @plan.fed_sockets.to_h { |socket, (kind, number)| [socket, @boxes.leave(socket, before && before[kind][true, number - 1], result[kind][true, number - 1])] }
        end

        private

        def channel_taps(stage, card)
          preamp = Audio::Pcm24.from_float(stage[@plan.heard_sockets, true] * @plan.gains)
          inside = replace(preamp, card)
          pre_eq = Audio::Pcm24.to_float(inside)
          pre_eq *= @mix.trims if @mix.trims
          post_eq = equalise(pre_eq)
          before_fader = @mix.open ? post_eq * @mix.open : post_eq
          { "preamp" => preamp, "channel-in" => inside, "pre-eq" => pre_eq, "post-eq" => post_eq, "pre-fader" => before_fader,
            "post-fader" => before_fader * @mix.faders }
        end

        # What channels hear from the card, instead of their preamps.
        def replace(preamp, card)
          return preamp if @plan.from_card.empty?

          preamp.dup.tap { |inside| @plan.from_card.each { |lane, from| inside[lane, true] = from.negative? ? 0 : card[from, true] } }
        end

        # A first-order tilt: treble against bass. Any filter would do that makes pre-EQ and post-EQ differ.
        def equalise(block)
          tilted = block * @mix.tilts
          out = block.dup
          out[true, 1..-1] = block[true, 1..-1] - tilted[true, 0...-1]
          out[true, 0] = block[true, 0] - (@last_sample * @mix.tilts[true, 0])
          @last_sample = block[true, -1].dup
          out
        end

        # @return [Hash{Array(Symbol, Integer)=>Hash{String=>Numo::DFloat}}] mix => tap => samples
        def mixes(channels, frames)
          @mix.mixes.each_with_object({}) do |(name, mix), done|
            sum = Numo::DFloat.zeros(frames)
            mix.sums.each { |part| sum += floats(channels[part.taken_at][part.lanes, true]).mulsum(part.gains, axis: 0) }
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
          when :ch then heard[:ch][feed.taken_at][feed.index, true]
          when :card then heard[:card][feed.index, true]
          else heard[:mixes].fetch([feed.kind, feed.index])[feed.taken_at]
          end
        end

        def sends(heard)
          frames = heard[:card].shape[1]
          out = silence(Numo::Int32, @model.sends, frames)
          @sends_by_tap.each { |tap, feeds| out[feeds.map { |feed| feed.number - 1 }, true] = heard[:ch][tap][feeds.map(&:index), true] }
          @other_sends.each do |feed|
            from = carried(heard, feed)
            out[feed.number - 1, true] = from.is_a?(Numo::Int32) ? from : Audio::Pcm24.from_float(from)
          end
          out.transpose
        end

        def mains(heard)
          out = silence(Numo::DFloat, @model.mains.size, heard[:card].shape[1])
          @model.mains.each_index { |index| out[index, true] = heard[:mixes][[:main, index]]["post-fader"] }
          out.transpose
        end

        def outputs(heard)
          out = silence(Numo::DFloat, @model.mix_outputs, heard[:card].shape[1])
          @plan.outputs.each { |feed| out[feed.number - 1, true] = @chain.process(feed.number, floats(carried(heard, feed))) }
          out.transpose
        end

        def personal(heard)
          out = silence(Numo::DFloat, @model.mix.personal, heard[:card].shape[1])
          @plan.personal.each { |feed| out[feed.number - 1, true] = floats(carried(heard, feed)) }
          out.transpose
        end

        # Numo copies an array in a quarter of the time that it takes to fill one.
        def silence(kind, lanes, frames) = (@silences[[kind, lanes, frames]] ||= kind.zeros(lanes, frames)).dup

        def floats(block) = block.is_a?(Numo::Int32) ? Audio::Pcm24.to_float(block) : block

        def look_at_settings
          @revision = @settings.revision
          @plan = Plan.new(@model, @settings)
          # Whole numbers as they are, a tap at a time.
          whole, @other_sends = @plan.sends.partition { |feed| feed.kind == :ch && %w[preamp channel-in].include?(feed.taken_at) }
          @sends_by_tap = whole.group_by(&:taken_at)
          @chain.keep(@plan.outputs.map(&:number))
          @mix = MixPlan.new(@model, @settings, @plan.feeds_of_all.map { |feed| [feed.kind, feed.index] })
        end
      end
    end
  end
end
