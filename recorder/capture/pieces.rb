# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Recorder
    # The sound of a batch in the layout of the tracks' files.
    class Pieces
      # @param bits [24, 32] 32 is float
      def initialize(bits)
        @bits = bits
      end

      # @param batch [Batch]   @param tracks [Array<Track>]
      # @return [Hash{Track=>String}] little-endian samples, interleaved for a track with two lanes
      def of(batch, tracks)
        return {} if tracks.empty?

        @places ||= places(batch.streams)
        mono, wide = tracks.partition { |track| track.inputs.size == 1 }
        streams = mono.group_by { |track| @places[track.inputs.first].first }
        streams.each_with_object(wide.to_h { |track| [track, side_by_side(batch.blocks, track)] }) do |(stream, list), pieces|
          lanes = one_by_one(batch, stream)
          list.each { |track| pieces[track] = lanes[@places[track.inputs.first].last] }
          Thread.pass
        end
      end

      private

      # A stream's lanes, all at once, of which each file takes its own.
      # @return [Array<String>]
      def one_by_one(batch, stream)
        _, lanes, bytes = batch.streams[stream]
        return Audio::Pcm24.lanes_to_wav(bytes, lanes) if @bits == 24

        floats = Audio::Pcm24.to_float32(batch.blocks[stream].transpose.dup)
        size = floats.bytesize / lanes
        Array.new(lanes) { |lane| floats.byteslice(lane * size, size) }
      end

      def side_by_side(blocks, track)
        columns = track.inputs.map { |lane| @places[lane].then { |stream, column| blocks[stream][true, column] } }
        encoded(Numo::Int32.vstack(columns).transpose.dup)
      end

      def encoded(block) = @bits == 32 ? Audio::Pcm24.to_float32(block) : Audio::Pcm24.to_wav(block)

      # @return [Hash{Integer=>Array(Integer, Integer)}] of each lane (1-based) its stream and column there
      def places(streams)
        streams.each_with_index.flat_map { |(first, lanes, _), stream| Array.new(lanes) { |column| [first + column + 1, [stream, column]] } }.to_h
      end
    end
  end
end
