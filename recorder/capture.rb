# frozen_string_literal: true

require "fileutils"
require "securerandom"
require "time"

module Loomshuttle
  module Recorder
    # One take while it is written: a Broadcast WAV a track, an overview for drawing, and the manifest. Fed with
    # batches; knows nothing of where they come from.
    class Capture
      # Headers and manifest are made true this often, in frames (half a second).
      REFRESH = 24_000
      OVERVIEW = "overview.u8"

      attr_reader :folder, :frames, :number, :name, :id

      # @param root [String] folder of all takes
      # @param tracks [Array<Track>] those to write
      # @param limit [Integer, nil] frames after which it ends by itself
      # @param started_at [Time]
      # @raise [SystemCallError] when the folder or a file cannot be made
      def initialize(root, tracks:, name:, lanes:, rate:, started_at:, limit: nil)
        @tracks, @name, @rate, @limit, @started_at = tracks, name, rate, limit, started_at
        @id = SecureRandom.uuid
        @number = TakeFiles.next_number(root)
        @folder = File.join(root, TakeFiles.folder(@number, name))
        @levels = Audio::LevelSum.new(lanes)
        @frames = 0
        @gaps = []
        @state = "capturing"
        open_files
      end

      # Writes what it still may of a batch.
      # @param batch [Batch]
      def write(batch)
        batch = batch.first(@limit - @frames) if @limit
        @start ||= batch.position
        pieces = lane_pieces(batch)
        @writers.each { |track, writer| writer.write(pieces[track]) }
        note_gaps(batch)
        @levels.add(batch.frames, *batch.levels)
        @overview.write(overview_row(batch))
        @frames += batch.frames
        refresh if (@frames % REFRESH) < batch.frames
      end

      # @return [Boolean] whether the wanted length is reached
      def full? = !@limit.nil? && @frames >= @limit

      # Ends it and makes all files true.
      # @param why [String, nil] what ended it, unless that was as wished
      # @return [Hash] the manifest
      def finish(why = nil)
        @state = why ? "ended early" : "complete"
        @note = why
        @writers.each_value { |writer| close(writer) }
        @overview.close
        write_manifest
      end

      # @return [Hash] the manifest so far
      def manifest
        { "format" => Manifest::FORMAT, "id" => @id, "number" => @number, "name" => @name, "state" => @state, "note" => @note,
          "rate" => @rate, "bits" => 24, "frames" => @frames, "started_at" => @started_at.iso8601, "start_position" => @start,
          "gaps" => @gaps, "overview" => { "file" => OVERVIEW, "frames" => Engine::BATCH },
          "tracks" => @tracks.map { |track| track_entry(track) } }
      end

      private

      def open_files
        FileUtils.mkdir_p(@folder)
        @writers = @tracks.to_h { |track| [track, Formats::Wav::Writer.new(path(track), bext: bext(track), lanes: track.inputs.size, rate: @rate)] }
        @overview = File.open(File.join(@folder, OVERVIEW), "wb").tap { |file| file.sync = true }
        write_manifest
      end

      def path(track) = File.join(@folder, TakeFiles.file(@name, @number, track.number, track.name))

      def bext(track)
        midnight = Time.new(@started_at.year, @started_at.month, @started_at.day, 0, 0, 0, @started_at.utc_offset)
        mode = track.inputs.size == 1 ? "mono" : "stereo"
        Formats::Bext.new(description: "#{track.name}, take #{@number} #{@name}", originator: "Loomshuttle",
                          reference: @id.delete("-"), date: @started_at.strftime("%Y-%m-%d"), time: @started_at.strftime("%H:%M:%S"),
                          time_reference: ((@started_at - midnight) * @rate).round,
                          history: "A=PCM,F=#{@rate},W=24,M=#{mode},T=Loomshuttle")
      end

      # Little-endian bytes of each track. A stereo track whose lanes lie in two streams is put together as numbers.
      def lane_pieces(batch)
        batch.streams.each_with_object({}) do |(first, lanes, bytes), pieces|
          inside, across = @tracks.select { |track| (track.inputs.first - 1).between?(first, first + lanes - 1) }
            .partition { |track| track.inputs.all? { |lane| (lane - 1).between?(first, first + lanes - 1) } }
          picks = inside.map { |track| track.inputs.map { |lane| lane - 1 - first } }
          inside.zip(Audio::Pcm24.network_to_wav(bytes, lanes, picks)) { |track, piece| pieces[track] = piece }
          across.each { |track| pieces[track] = across_streams(batch, track) }
          Thread.pass
        end
      end

      def across_streams(batch, track)
        columns = track.inputs.map do |lane|
          first, lanes, bytes = batch.streams.find { |start, width, _| (lane - 1).between?(start, start + width - 1) }
          Audio::Pcm24.from_network(bytes, lanes)[true, lane - 1 - first]
        end
        Audio::Pcm24.to_wav(Numo::Int32.vstack(columns).transpose.dup)
      end

      # Gaps that follow on each other are one.
      def note_gaps(batch)
        batch.gaps.each do |first, lanes, at, missing|
          from = @frames + at - batch.position
          range = [first + 1, first + lanes]
          last = @gaps.reverse_each.find { |gap| gap["lanes"] == range }
          next last["frames"] += missing if last && last["at"] + last["frames"] == from

          @gaps << { "at" => from, "frames" => missing, "lanes" => range }
        end
      end

      # One byte a track: 255 at full scale, a step is 0.375 dB.
      def overview_row(batch)
        peaks = batch.levels.first
        @tracks.map { |track| (255 + (track.inputs.map { |lane| Audio::Level.dbfs(peaks[lane - 1]) }.max / 0.375)).round.clamp(0, 255) }.pack("C*")
      end

      def refresh
        @writers.each_value(&:refresh)
        write_manifest
      end

      def write_manifest
        data = manifest
        Manifest.write(@folder, data)
        data
      rescue Errno::ENOSPC
        manifest # the files' own headers still tell their length
      end

      def close(writer)
        writer.close
      rescue SystemCallError => e
        @note ||= e.message
      end

      def track_entry(track)
        lanes = track.inputs.map { |lane| lane - 1 }
        { "number" => track.number, "name" => track.name, "inputs" => track.inputs, "outputs" => track.outputs,
          "file" => File.basename(path(track)), "frames" => @frames, "peak_dbfs" => @levels.peak_dbfs(lanes).round(2),
          "rms_dbfs" => @levels.rms_dbfs(lanes).round(2) }
      end
    end
  end
end
