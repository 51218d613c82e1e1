# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Web
    # A take to listen to in the browser: one track, a quick mix of all, or as a listener would hear it. It is 16-bit stereo WAV, generated while it
    # is sent, from any byte on.
    class QuickMix < WavFlow
      # Sources that play together add as power, so n of them are turned down by the root of n; the rest is headroom.
      HEADROOM = 2.0

      # @param take [Hash] manifest with "folder"
      # @param track [Integer, nil] number of a single track to play; nil for all
      # @param from [Integer] frame
      # @param ears [Hash, nil] a listener's mix by lane (Hearing::EarMix); nil for equal levels
      # @raise [Invalid]
      def initialize(take, track: nil, from: 0, ears: nil)
        @take = take
        @from = from.clamp(0, take["frames"])
        chosen = take["tracks"].select { |one| track.nil? || one["number"] == track }
        raise Invalid.new("Take #{take['number']} has no track #{track}.", where: "track") if chosen.empty?

        @files = chosen.map { |one| File.join(take["folder"], one["file"]) }
        @ways = chosen.map { |one| ears ? heard(one, ears) : alike(one) }
        @gain = gain(chosen.size)
        super(frames: take["frames"] - @from, rate: take["rate"], lanes: 2, bits: 16)
      end

      def close = @readers&.each(&:close)

      private

      def readers = @readers ||= @files.map { |path| Formats::Wav::Reader.new(path) }

      def block(at, size)
        sum, from = Numo::DFloat.zeros(size, 2), @from + at
        readers.zip(@ways) { |reader, ways| ways.group_by { |way| way[2] }.each { |late, alike| add(sum, reader, from - late, alike) } }
        Numo::Int16.cast(Audio::Dither.round(sum * (@gain / 256), at, 32_768)).to_binary
      end

      # Ways of one time; before its beginning a take is silent.
      def add(sum, reader, from, ways)
        skipped = [-from, 0].max
        return if skipped >= sum.shape[0]

        samples = reader.read(from + skipped, sum.shape[0] - skipped)
        ways.each { |side, lane, _, amplitude| sum[skipped...(skipped + samples.shape[0]), side] += samples[true, lane] * amplitude } unless samples.empty?
      end

      # Ways as [side, lane of the file, samples late, amplitude]: both sides of a track, a mono one on both.
      def alike(track) = Array.new(2) { |side| [side, [side, track["inputs"].size - 1].min.clamp(0, 1), 0, 1.0] }

      def heard(track, ears)
        track["inputs"].each_with_index.flat_map do |lane, at|
          ears.fetch(lane).each_with_index.flat_map { |ways, side| ways.map { |late, amplitude| [side, at, late, amplitude] } }
        end
      end

      # Sources that play together add as power.
      def gain(tracks)
        power = @ways.flatten(1).sum { |_, _, _, amplitude| amplitude**2 } / 2
        tracks == 1 || power.zero? ? 1.0 : HEADROOM / Math.sqrt(power)
      end
    end
  end
end
