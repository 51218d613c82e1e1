# frozen_string_literal: true

require "fileutils"

module Loomshuttle
  module Recorder
    # One copy of a take while it is written: a folder with a WAV file for each track, an overview for waveforms, and the manifest.
    class TakeFolder
      OVERVIEW = "overview.u8"
      # Room on the disk that is kept until the end, so that the files can be closed on one that is full (bytes).
      SPARE = ".spare"
      SPARE_BYTES = 1 << 18

      attr_reader :path

      # @param path [String] must not exist yet
      # @param names [Hash{Track=>String}] file of each track
      # @yieldparam path [String] of a file to create   @yieldparam track [Track]
      # @yieldreturn [Formats::Wav::Writer]
      # @raise [SystemCallError] if the folder or a file cannot be created
      def initialize(path, names)
        @path = path
        Dir.mkdir(path)
        @writers = names.to_h { |track, name| [track, yield(File.join(path, name), track)] }
        @overview = File.open(File.join(path, OVERVIEW), "wb").tap { |file| file.sync = true }
        File.binwrite(File.join(path, SPARE), "\1" * SPARE_BYTES)
        Runtime::Files.sync(File.dirname(path))
      end

      # @return [Integer] length of the shortest file in frames
      def frames = @writers.values.map(&:frames).min

      # @param pieces [Hash{Track=>String, Integer}] samples, or frames of silence for a paused track
      # @param row [String] bytes of the overview
      def write(pieces, row)
        pieces.each do |track, piece|
          piece.is_a?(Integer) ? @writers[track].rest(piece) : @writers[track].write(piece)
        end
        @overview.write(row)
      end

      # Brings the heads of all files up to date.
      # @param manifest [Hash, nil] written too, if given
      def refresh(manifest)
        @writers.each_value(&:refresh)
        keep(manifest) if manifest
      end

      # Does nothing: this class writes at once.
      def settle = nil

      # Closes all files at the same length, since the last piece may have reached only some of them.
      # @param markers [Array<Formats::Markers::Marker>]
      # @return [String, nil] what went wrong; everything else is closed anyway
      def close(manifest, markers)
        FileUtils.rm_f(File.join(@path, SPARE))
        length = [frames, manifest["frames"]].min
        markers = markers.select { |marker| marker.at <= length }
        problems = @writers.values.filter_map { |writer| closed(writer, length, Formats::Markers.chunks(markers)) }
        @overview.fsync
        @overview.close
        TakeMarkers.write_lists(@path, manifest["name"], markers, manifest["rate"])
        keep(Manifest.ending(manifest, length))
        problems.first
      rescue SystemCallError => e
        e.message
      end

      private

      def closed(writer, frames, tail)
        writer.cut(frames)
        writer.close(tail)
        nil
      rescue SystemCallError => e
        e.message
      end

      def keep(manifest)
        Manifest.write(@path, manifest)
      rescue Errno::ENOSPC, Errno::EDQUOT
        nil # the files' own heads still tell their length
      end
    end
  end
end
