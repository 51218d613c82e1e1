# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # 50 ms of all lanes. streams: [[first lane (0-based), lanes, bytes], …]; gaps: [[first lane, lanes, at, frames], …]
    # at positions on the engine's time line.
    Batch = Struct.new(:position, :frames, :streams, :gaps) do
      # @return [Array(Array<Float>, Array<Float>)] peak amplitudes and mean squares of all lanes
      def levels
        @levels ||= streams.map { |_, lanes, bytes| Audio::Pcm24.from_network(bytes, lanes) }.then do |blocks|
          [blocks.flat_map { |block| Audio::Level.peak_amplitudes(block) }, blocks.flat_map { |block| Audio::Level.mean_squares(block) }]
        end
      end
    end
  end
end
