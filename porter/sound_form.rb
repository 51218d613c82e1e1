# frozen_string_literal: true

require "io/wait"
require "numo/narray"

module Loomshuttle
  module Porter
    # The form in which the sound of an export is written:
    #   captured   a file for each track, byte by byte as captured       24   24-bit WAV       16   16-bit WAV, dithered
    #   flac       FLAC of 24 bits, lossless (RFC 9639)                  together   one WAV with all lanes, named in its iXML
    class SoundForm
      FORMS = Formats::JobFile::SOUNDS
      # Samples of all lanes that are taken at once.
      BLOCK = 240_000
      # Full scale of 16 bits, and the number of 24-bit steps in one 16-bit step.
      STEPS, RATIO = 32_768, 256.0
      # Longest time in which ffmpeg says nothing (seconds).
      PATIENCE = 60

      # @param cut [Cut]   @param form [String, nil] one of FORMS; nil: as captured
      # @raise [Invalid]
      def initialize(cut, form)
        @cut, @form = cut, form || FORMS.first
        raise Invalid.new("Sound leaves as #{FORMS.join(', ')}, not as \"#{@form}\".", where: "sound") unless FORMS.include?(@form)
      end

      # @return [Hash{String=>Array<Hash>}] names of the files, and the tracks in each
      def files
        return { @cut.file(nil) => @cut.tracks } if @form == "together"

        @cut.tracks.to_h { |track| [@cut.file(track).sub(/\.wav\z/, @form == "flac" ? ".flac" : ".wav"), [track]] }
      end

      # @return [Hash{String=>String}] lists beside the sound; only what this application reads as a take has the manifest of one
      def lists = %w[captured 24].include?(@form) ? @cut.lists(bits: bits) : @cut.lists.except(Formats::TakeManifest::FILE)

      # @param tracks [Array<Hash>]   @param path [String] of the file
      # @yieldparam bytes [Integer] of the take that were read; the block may raise to stop
      def write(tracks, path, &)
        return wave(tracks, path, &) unless @form == "flac"

        wave(tracks, "#{path}.wav", &)
        packed("#{path}.wav", path) { yield 0 }
      ensure
        FileUtils.rm_f("#{path}.wav")
      end

      private

      def bits = { "24" => 24, "16" => 16, "flac" => 24 }.fetch(@form, @cut.bits)

      def wave(tracks, path)
        writer = @cut.writer(tracks, path, bits: bits)
        readers = tracks.map { |track| Formats::Wav::Reader.new(@cut.path(track)) }
        block = BLOCK / readers.sum(&:lanes)
        (@cut.from...@cut.to).step(block) do |at|
          count = [block, @cut.to - at].min
          writer.write(bytes(readers, at, count))
          yield count * readers.sum(&:lanes) * @cut.bits / 8
        end
        writer.close(Formats::Markers.chunks(@cut.markers))
      ensure
        readers&.each(&:close)
      end

      # What stays as it is, is copied.
      def bytes(readers, at, count)
        return readers.first.bytes(at, count) if readers.size == 1 && bits == @cut.bits

        samples = beside_each_other(readers, at, count)
        case bits
        when 16 then sixteen(samples, at - @cut.from)
        when 24 then Audio::Pcm24.to_wav(samples)
        else Audio::Pcm24.to_float32(samples)
        end
      end

      # A file that ends before the others, as after a power cut, goes on in silence.
      # @return [Numo::Int32] [frames, lanes]
      def beside_each_other(readers, at, count)
        lane = 0
        readers.each_with_object(Numo::Int32.zeros(count, readers.sum(&:lanes))) do |reader, all|
          part = reader.read(at, count)
          all[0...part.shape[0], lane...(lane + reader.lanes)] = part if part.shape[0].positive?
          lane += reader.lanes
        end
      end

      # A lane that has no more than 16 bits stays as it is.
      def sixteen(samples, at)
        scaled = Numo::DFloat.cast(samples) / RATIO
        out = Numo::Int16.zeros(*samples.shape)
        samples.shape[1].times do |lane|
          column = scaled[true, lane].dup
          out[true, lane] = column.eq(column.rint).all? ? column : Audio::Dither.round(column, at, STEPS)
        end
        out.to_binary
      end

      # ffmpeg tells twice a second how far it is. One that is silent for long is killed.
      def packed(from, to)
        pipe = IO.popen(["ffmpeg", "-v", "error", "-nostdin", "-y", "-progress", "pipe:1", "-i", from, "-map_metadata", "0", "-c:a", "flac", "-f", "flac", to], err: File::NULL)
        while pipe.wait_readable(PATIENCE)
          break if pipe.read_nonblock(4096, exception: false).nil?

          yield
        end
        raise Invalid.new("#{File.basename(to)} cannot be packed as FLAC.", where: "sound") unless Runtime::Programs.ended?(pipe, 1)
      ensure
        Runtime::Programs.end_it(pipe) if pipe && !pipe.closed?
      end
    end
  end
end
