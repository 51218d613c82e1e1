# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module StandIns
    module Desk
      # Computes the mixes. Mixes of a kind (buses, mains, matrices) are rows of one array, so equalisers and faders are computed for all of them at
      # once. A kind comes after those that feed it.
      class Mixes
        # @param plan [Hash] MixPlan#mixes
        # @param lanes [Integer] of the channels
        def initialize(plan, lanes)
          @kinds = plan.group_by { |(kind, _), _| kind }.transform_values { |mixes| Kind.new(mixes.to_h, lanes) }
        end

        # @param channels [Hash{String=>Numo::DFloat, Numo::Int32}] tap => samples, [lanes, frames]
        # @return [Mixes] itself, computed
        def process(channels, frames)
          @kinds.each_value { |kind| kind.process(channels, frames, self) }
          self
        end

        # @param key [Array(Symbol, Integer)]   @param tap [String]
        # @return [Numo::DFloat] samples
        def at(key, tap) = @kinds.fetch(key.first).at(key, tap)

        # @return [Numo::DFloat, nil] [mixes, frames] of a kind; nil if none is in use
        def all(kind, tap) = @kinds[kind]&.all(tap)

        # The last sample of each mix, by key, to continue the equalisers after the plan was rebuilt.
        def last = @kinds.values.reduce({}) { |all, kind| all.merge(kind.last) }

        def last=(samples)
          @kinds.each_value { |kind| kind.last = samples }
        end

        # Mixes of one kind.
        class Kind
          # @param mixes [Hash{Array(Symbol, Integer)=>MixPlan::Mix}]
          def initialize(mixes, lanes)
            @mixes, @lanes = mixes.values, (0...lanes).to_a
            @rows = mixes.keys.each_with_index.to_h
            @tilts = column(@mixes.map(&:tilt)) unless @mixes.all? { |mix| mix.tilt.zero? }
            @gains = column(@mixes.map(&:gain)) unless @mixes.all? { |mix| mix.gain == 1 }
            @last = column([0.0] * @mixes.size)
          end

          def process(channels, frames, others)
            sums = Numo::DFloat.new(@mixes.size, frames).allocate
            @mixes.each_with_index { |mix, row| sums[row, true] = sum(mix, channels, others) }
            after = @tilts ? sums - (@last.concatenate(sums[true, 0...-1], axis: 1) * @tilts) : sums
            @last = sums[true, -1..].dup
            @taps = { "pre-eq" => sums, "post-eq" => after, "pre-fader" => after, "post-fader" => @gains ? after * @gains : after }
          end

          def at(key, tap) = @taps.fetch(tap)[@rows.fetch(key), true]
          def all(tap) = @taps.fetch(tap)
          def last = @rows.transform_values { |row| @last[row, 0] }

          def last=(samples)
            @rows.each { |key, row| @last[row, 0] = samples.fetch(key, 0.0) }
          end

          private

          def column(numbers) = Numo::DFloat[*numbers].expand_dims(1)

          def sum(mix, channels, others)
            parts = mix.sums.map { |part| floats(taken(channels[part.taken_at], part.lanes)).mulsum(part.gains, axis: 0) }
            mix.mixes.each { |from, gain| parts << (gain == 1 ? others.at(from, "post-fader") : others.at(from, "post-fader") * gain) }
            parts.reduce(:+) || 0
          end

          def taken(block, lanes) = lanes == @lanes ? block : block[lanes, true]
          def floats(block) = block.is_a?(Numo::Int32) ? Audio::Pcm24.to_float(block) : block
        end
        private_constant :Kind
      end
    end
  end
end
