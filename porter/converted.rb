# frozen_string_literal: true

require "io/wait"
require "numo/narray"

module Loomshuttle
  module Porter
    # Converts one imported recording to a track of a take: ffmpeg decodes and resamples in full precision, the result is written as 24-bit
    # Broadcast WAV and measured. Longer words are dithered; samples beyond full scale are limited and counted.
    class Converted
      # Frames that are taken at once, and a step of the overview.
      BLOCK = 48_000
      STEP = 2400
      # Bytes of a sample as ffmpeg hands it on.
      FLOAT = 8

      attr_reader :file
      # @return [Integer] samples beyond full scale, which were limited
      attr_reader :limited

      # @param item [Hash] title, track (or nil), lanes, wide (whether a part has more than two channels), offset (frames) and files
      # @param writer [Formats::Wav::Writer]   @param rate [Integer]
      def initialize(item, writer, rate)
        @item, @writer, @rate = item, writer, rate
        @file = File.basename(writer.path)
        @lanes = item["lanes"]
        @levels = Audio::LevelSum.new(@lanes)
        @columns = [0] * (item["offset"] / STEP)
        @clips = @limited = 0
        writer.rest(item["offset"]) if item["offset"].positive?
      end

      # ffmpeg has so long to say anything (seconds).
      PATIENCE = 60

      # Appends a file.
      # @yield after each written block; the block may raise to stop
      # @raise [Invalid] if ffmpeg cannot read it
      def append(path, &) = decode([path], ["-map", "0:a:0", *channels], &)

      # Appends two files as left and right; the shorter one is padded with silence.
      # @yield as append
      # @raise [Invalid] if ffmpeg cannot read them
      def append_pair(left, right, lanes = [0, 0], &)
        sides = lanes.each_with_index.map { |lane, side| "[#{side}:a:0]pan=stereo|c#{side}=c#{lane},aresample=#{@rate}[s#{side}]" }
        decode([left, right], ["-filter_complex", "#{sides.join(';')};[s0][s1]amix=inputs=2:duration=longest:normalize=0:dropout_transition=0"], &)
      end

      # Appends a part of a recording.
      # @param piece [Array<Hash>] "file" and "lane" (from 0; nil for all) of one source, or of left and right
      # @yield as append
      # @raise [Invalid] if ffmpeg cannot read them
      def append_piece(piece, &)
        files, lanes = piece.map { |source| source["file"] }, piece.map { |source| source["lane"] }
        return append_pair(*files, lanes.map(&:to_i), &) if piece.size == 2

        lanes.first ? decode(files, ["-map", "0:a:0", "-af", "pan=mono|c0=c#{lanes.first}"], &) : append(files.first, &)
      end

      # @return [Integer] written so far
      def frames = @writer.frames

      # Pads with silence up to a length and closes the file.
      def close(frames)
        @writer.rest(frames - @writer.frames) if frames > @writer.frames
        @writer.close
      end

      # @return [Integer] a byte of the overview, as in captures
      def column(row) = @columns[row] || 0

      # @param number [Integer] track number if it matches no track of the show
      # @return [Hash] its entry in the manifest
      def entry(number)
        lanes = (0...@lanes).to_a
        { "number" => @item["track"] || number, "name" => @item["title"], "inputs" => lanes.map(&:succ), "outputs" => [], "file" => @file, "frames" => frames,
          "peak_dbfs" => @levels.peak_dbfs(lanes).round(2), "rms_dbfs" => @levels.rms_dbfs(lanes).round(2), "clips" => @clips, "rests" => [] }
      end

      private

      def decode(paths, channels, &)
        inputs = paths.flat_map { |path| [*Formats::SoundKinds::OPTIONS, "-i", path] }
        command = ["ffmpeg", "-v", "error", "-nostdin", *inputs, *channels, "-ar", @rate.to_s, "-f", "f64le", "-c:a", "pcm_f64le", "-"]
        pipe = IO.popen(command, "rb", err: File::NULL)
        pour(pipe, &)
        raise Invalid.new("#{File.basename(paths.first)} cannot be read as sound.", where: paths.first) unless Runtime::Programs.ended?(pipe, PATIENCE)
      ensure
        Runtime::Programs.end_it(pipe) if pipe && !pipe.closed?
      end

      # Of more than two channels the first two are taken, none is mixed.
      def channels
        return ["-ac", @lanes.to_s] unless @item["wide"]

        ["-af", @lanes == 1 ? "pan=mono|c0=c0" : "pan=stereo|c0=c0|c1=c1"]
      end

      def pour(pipe)
        size = @lanes * FLOAT
        while (bytes = read(pipe, BLOCK * size))
          yield
          bytes = bytes.byteslice(0, bytes.bytesize - (bytes.bytesize % size))
          keep(Numo::DFloat.from_binary(bytes, [bytes.bytesize / size, @lanes])) unless bytes.empty?
        end
      end

      # @param block [Numo::DFloat] [frames, lanes], full scale 1.0
      def keep(block)
        scaled = block * Audio::Pcm24::FULL_SCALE
        @limited += ((scaled > Audio::Pcm24::FULL_SCALE - 0.5) | (scaled < -Audio::Pcm24::FULL_SCALE - 0.5)).count_true
        samples = Numo::Int32.zeros(*block.shape)
        @lanes.times { |lane| samples[true, lane] = reduced(scaled[true, lane].dup) }
        @writer.write(Audio::Pcm24.to_wav(samples))
        measure(samples)
      end

      # What has no more than 24 bits stays as it is.
      def reduced(column)
        return column.clip(-Audio::Pcm24::FULL_SCALE, Audio::Pcm24::FULL_SCALE - 1) if column.eq(column.rint).all?

        Audio::Dither.round(column, frames, Audio::Pcm24::FULL_SCALE)
      end

      # @return [String, nil] so many bytes, or what is left
      # @raise [Invalid] when nothing comes for long
      def read(pipe, size)
        bytes = "".b
        while bytes.bytesize < size
          hung(pipe) unless pipe.wait_readable(PATIENCE)
          part = pipe.read_nonblock(size - bytes.bytesize, exception: false)
          break if part.nil?

          bytes << part if part.is_a?(String)
        end
        bytes unless bytes.empty?
      end

      def hung(pipe)
        Process.kill(:KILL, pipe.pid)
        raise Invalid.new("ffmpeg did not respond for #{PATIENCE} s.", where: @file)
      end

      def measure(block)
        peaks, squares = Audio::Level.measured(block)
        @levels.add(block.shape[0], peaks, squares)
        @clips += 1 if peaks.max >= Audio::Level::CLIPPED
        (0...block.shape[0]).step(STEP) { |at| @columns << Audio::Level.byte(Audio::Level.peak_amplitudes(block[at...[at + STEP, block.shape[0]].min, true]).max) }
      end
    end
  end
end
