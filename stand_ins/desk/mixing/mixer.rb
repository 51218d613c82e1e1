# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # The desk's sound: sockets and card returns in, card sends, outputs and meter points out, on real samples. Inside, a lane is a row, which
      # Numo reads and adds up many times faster than a column.
      class Mixer
        # What one block yields: sends Int32 [frames, sends]; channels DFloat [frames, lanes] as heard at channel in, good until the next block;
        # mains DFloat [frames, mains]; outputs DFloat [frames, mix outputs]; personal DFloat [frames, personal lanes]
        Result = Struct.new(:sends, :channels, :mains, :outputs, :personal)

        def initialize(model, settings)
          @model = model
          @settings = settings
          @revision = nil
          @channels, @silences = Channels.new(model.lanes), {}
          @chain = OutputChain.new(model, settings)
          @boxes = StageBoxes.new(model)
        end

        # @param stage [Numo::DFloat] [frames, sockets] before the preamps
        # @param returns [Numo::Int32] [frames, card returns]
        # @param as_it_was [Boolean] whether to use the settings of the last block
        # @return [Result]
        def process(stage, returns, as_it_was: false)
          look_at_settings unless as_it_was || @revision == @settings.revision
          card = returns.transpose
          heard = { ch: @channels.process(@boxes.arrive(stage.transpose), card), card: card }
          heard[:mixes] = @mixes.process(heard[:ch], card.shape[1])
          Result.new(sends(heard), heard[:ch]["channel-in as float"].transpose, mains(heard), outputs(heard), personal(heard))
        end

        # @param result [Result]   @param before [Result, nil] of the block before
        # @return [Hash{String=>Numo::DFloat}] output of each socket in use: "out/3", "a.2/7", "personal/5"
        def at_sockets(result, before)
          look_at_settings unless @revision == @settings.revision
          @plan.fed_sockets.to_h { |socket, (kind, number)| [socket, @boxes.leave(socket, before && before[kind][true, number - 1], result[kind][true, number - 1])] }
        end

        # @return [Boolean] whether any output has a delay
        def delays? = @chain.delays?

        private

        # What a send, output or lane carries, as samples of their kind.
        def carried(heard, feed)
          case feed.kind
          when :ch then heard[:ch][feed.taken_at][feed.index, true]
          when :card then heard[:card][feed.index, true]
          else heard[:mixes].at([feed.kind, feed.index], feed.taken_at)
          end
        end

        def sends(heard)
          frames = heard[:card].shape[1]
          out = silence(Numo::Int32, @model.sends, frames)
          @sends_by_tap.each { |tap, feeds| out[feeds.map { |feed| feed.number - 1 }, true] = heard[:ch][tap][feeds.map(&:index), true] }
          carried = @other_sends.to_h { |feed| [feed.number - 1, carried(heard, feed)] }
          whole, others = carried.partition { |_, samples| samples.is_a?(Numo::Int32) }
          whole.each { |row, samples| out[row, true] = samples }
          out[others.map(&:first), true] = Audio::Pcm24.from_float(Numo::DFloat.vstack(others.map(&:last))) if others.any?
          out.transpose
        end

        def mains(heard) = (heard[:mixes].all(:main, "post-fader") || silence(Numo::DFloat, 0, heard[:card].shape[1])).transpose

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
          @channels.follow(@plan, @mix)
          @mixes = Mixes.new(@mix.mixes, @model.lanes).tap { |again| again.last = @mixes.last if @mixes }
        end
      end
    end
  end
end
