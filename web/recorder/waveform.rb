# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Web
    # A take's waveform: from the overview that was written during capture or, at a closer zoom, from the sound itself. See Audio::Level.byte.
    class Waveform
      # Columns that an answer has at most.
      MOST = 4000

      # @param take [Hash] manifest with "folder"
      def initialize(take)
        @take = take
        @step = take.dig("overview", "frames") || (take["rate"] / 20)
        @tracks = take["tracks"].size
      end

      # @param points [Integer] number of columns
      # @param from [Integer] frame   @param to [Integer]
      # @param track [Integer, nil] number; nil for the loudest of all tracks
      # @return [Array<Integer>]
      # @raise [Invalid]
      def columns(points, from: 0, to: @take["frames"], track: nil)
        points = points.clamp(1, MOST)
        from, to = [from, to].map { |one| one.clamp(0, @take["frames"]) }
        return [] if to <= from

        index = track && (@take["tracks"].index { |one| one["number"] == track } || raise(Invalid.new("Take #{@take['number']} has no track #{track}.", where: "track")))
        index && (to - from) / points < @step ? close_by(index, points, from, to) : from_overview(index, points, from, to)
      end

      private

      def from_overview(index, points, from, to)
        rows = overview(from / @step, (to / @step.to_f).ceil)
        return [] if rows.empty?

        loudness = (index ? rows[true, index] : rows.max(axis: 1)).to_a
        count = [points, loudness.size].min
        (0...count).map { |column| loudness[(column * loudness.size / count)...((column + 1) * loudness.size / count)].max }
      end

      # @return [Numo::UInt8] [steps, tracks]; empty where there is none
      def overview(from, to)
        file = @take.dig("overview", "file") or return Numo::UInt8[]
        bytes = File.binread(File.join(@take["folder"], file), (to - from) * @tracks, from * @tracks).to_s
        rows = bytes.bytesize / @tracks
        rows.zero? ? Numo::UInt8[] : Numo::UInt8.from_binary(bytes.byteslice(0, rows * @tracks), [rows, @tracks])
      rescue Errno::ENOENT
        Numo::UInt8[]
      end

      def close_by(index, points, from, to)
        reader = Formats::Wav::Reader.new(File.join(@take["folder"], @take["tracks"][index]["file"]))
        width = (to - from) / points.to_f
        samples = reader.read(from, to - from).abs.max(axis: 1)
        (0...points).map do |column|
          part = samples[(column * width).floor...[((column + 1) * width).floor, (column * width).floor + 1].max.clamp(1, samples.size)]
          part.empty? ? 0 : Audio::Level.byte(part.max / Audio::Pcm24::FULL_SCALE.to_f)
        end
      ensure
        reader&.close
      end
    end
  end
end
