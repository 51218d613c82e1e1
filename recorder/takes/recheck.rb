# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Measures the levels of recovered takes again and syncs their files, in small steps in the background. A take that ends the recorder while it
    # is measured keeps its old levels.
    class Recheck
      # Frames that are read at once.
      STRETCH = 96_000
      # Stands in a take's folder while it is measured.
      MEASURING = ".measuring"

      # @param shelf [Shelf] stores the results
      def initialize(shelf)
        @shelf = shelf
        @waiting = []
        @total = @done = 0
      end

      # @param takes [Array<Hash>] that were recovered (Recovery.run)
      def add(takes) = @waiting.concat(takes.map { |take| take["folder"] })

      # Reads one stretch. Called from one thread only.
      # @return [Boolean] whether more is left to do
      def step
        return !@waiting.empty? && open_next unless @take

        read_stretch
        true
      rescue SystemCallError, Invalid => e
        Runtime::Log.now.warn("The levels of recovered take #{@take&.dig('number')} stay as they were: #{e.message}")
        finish
        true
      end

      # @return [Hash, nil] number and name of the take being measured, and `done`, from 0 to 1
      def status
        take = @take or return
        { "number" => take["number"], "name" => take["name"], "done" => (@done / [@total, 1].max.to_f).round(3) }
      end

      private

      def open_next
        @folder = @waiting.shift
        take = Manifest.read(@folder) or return true # in the bin by now
        @marker = File.join(@folder, MEASURING)
        @levels = []
        return keep if File.exist?(@marker) # it ended the recorder

        File.write(@marker, "")
        @left = take["tracks"].dup
        @total, @done = take["tracks"].sum { |track| track["frames"] }, 0
        @take = take
        true
      end

      def read_stretch
        track = @left.first or return finish
        @reader ||= Formats::Wav::Reader.new(File.join(@folder, track["file"])).tap { |reader| begin_file(reader) }
        block = @reader.read(@at, STRETCH)
        return file_done(track) if block.shape[0].zero?

        @sum.add(block.shape[0], *Audio::Level.measured(block))
        @at += block.shape[0]
        @done += block.shape[0]
      end

      def begin_file(reader)
        @at = 0
        @sum = Audio::LevelSum.new(reader.lanes)
      end

      def file_done(track)
        lanes = (0...@reader.lanes).to_a
        @levels << { "number" => track["number"], "peak_dbfs" => @sum.peak_dbfs(lanes).round(2), "rms_dbfs" => @sum.rms_dbfs(lanes).round(2) }
        close_reader
        File.open(File.join(@folder, track["file"]), &:fsync)
        @left.shift
      end

      def close_reader
        @reader&.close
        @reader = nil
      end

      def finish
        close_reader
        keep
      end

      def keep
        @take = nil
        @shelf.measured(@folder, @levels)
        FileUtils.rm_f(@marker)
        true
      end
    end
  end
end
