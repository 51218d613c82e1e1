# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Recorder
    # 50 ms of all lanes, or a stretch of any length of which nothing came. streams: [[first lane (0-based), lanes, bytes], …], bytes nil
    # where nothing came; gaps: [[first lane, lanes, at, frames], …] at positions on the engine's time line; breaks: Engine::Break, where
    # the sender's own time did not go on; behind: frames that came, and that the disk was too slow for.
    Batch = Struct.new(:position, :frames, :streams, :gaps, :breaks, :behind) do
      def initialize(position, frames, streams, gaps, breaks = [], behind = 0) = super

      # @return [Boolean] whether the batch has a length but no sound
      def silent? = streams.all? { |_, _, bytes| bytes.nil? }

      # @return [Integer] bytes of sound held
      def bytes = streams.sum { |_, _, bytes| bytes ? bytes.bytesize : 0 }

      # @param count [Integer] frames
      # @return [Batch] only its first frames
      def first(count)
        return self if count >= frames

        last = position + count
        kept = streams.map { |from, lanes, bytes| [from, lanes, bytes&.byteslice(0, count * lanes * Audio::Pcm24::BYTES)] }
        cut = gaps.select { |_, _, at, _| at < last }.map { |from, lanes, at, missing| [from, lanes, at, [missing, last - at].min] }
        Batch.new(position, count, kept, cut, breaks.select { |one| one.at < last }, [behind, count].min)
      end

      # @param start [Integer] position on the engine's time line
      # @return [Batch, nil] its frames from there on; nil if it ends earlier
      def from(start)
        skip = start - position
        return self unless skip.positive?
        return if skip >= frames

        kept = streams.map { |first, lanes, bytes| [first, lanes, bytes&.byteslice((skip * lanes * Audio::Pcm24::BYTES)..)] }
        cut = gaps.select { |_, _, at, missing| at + missing > start }.map { |first, lanes, at, missing| [first, lanes, [at, start].max, at + missing - [at, start].max] }
        Batch.new(start, frames - skip, kept, cut, breaks.select { |one| one.at > start }, [behind, frames - skip].min)
      end

      # @return [Batch] the same stretch without sound, because there was no time to write it
      def dropped
        Batch.new(position, frames, streams.map { |first, lanes, _| [first, lanes, nil] }, streams.map { |first, lanes, _| [first, lanes, position, frames] }, breaks, frames)
      end

      # @param other [Batch] the dropped batch that follows
      # @return [Batch] both as one
      def and_dropped(other)
        whole = frames + other.frames
        Batch.new(position, whole, streams, streams.map { |first, lanes, _| [first, lanes, position, whole] }, breaks + other.breaks, behind + other.frames)
      end

      # @return [Array<Numo::Int32>] each stream's samples, [frames, lanes]
      def blocks = @blocks || decoded

      # Keeps the decoded samples while several readers need them.
      def hold_samples
        @blocks = decoded unless silent?
      end

      # Drops the decoded samples; bytes and levels stay.
      def forget_samples
        levels
        @blocks = nil
      end

      # @return [Array(Numo::DFloat, Numo::DFloat)] peak amplitudes and mean squares of all lanes
      def levels = @levels ||= silent? ? Array.new(2) { Numo::DFloat.zeros(streams.sum { |_, lanes, _| lanes }) } : measured

      private

      def measured = blocks.map { |block| Audio::Level.measured(block) }.transpose.map { |parts| Numo::DFloat.hstack(parts) }

      def decoded
        streams.map do |_, lanes, bytes|
          Thread.pass # Ruby runs one thread at a time: between streams the one that follows the clock gets its turn
          Audio::Pcm24.from_network(bytes, lanes)
        end
      end
    end
  end
end
