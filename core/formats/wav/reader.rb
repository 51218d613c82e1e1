# frozen_string_literal: true

require "numo/narray"

module Loomshuttle
  module Formats
    module Wav
      # Reads a file of 24-bit PCM or 32-bit float: its format, its "bext" chunk, and samples from any place.
      class Reader
        KINDS = [[PCM, 24], [FLOAT, 32]].freeze
        # Lanes of a file.
        LANES = (1..4096)

        # @return [String, nil] the iXML chunk, as far as it is read (IXml)
        attr_reader :ixml
        attr_reader :lanes, :rate, :bits, :frames, :bext

        # @raise [Invalid] if the file is neither RIFF/WAVE nor RF64
        def initialize(path)
          @path = path
          @file = File.open(path, "rb")
          read_chunks
          wrong("has no samples") unless @data_at
          wrong("is neither 24-bit PCM nor 32-bit float") unless KINDS.include?([@format, @bits])
        end

        # @param from [Integer] frame
        # @param count [Integer] frames; fewer are returned at the end of the file
        # @param into [String] buffer to overwrite and return, for callers that read much and keep nothing
        # @return [String] little-endian samples
        def bytes(from, count, into = "".b)
          count = (frames - from).clamp(0, count)
          return into.clear if count.zero?

          @file.pread(count * @frame_bytes, @data_at + (from * @frame_bytes), into)
        end

        # @return [Numo::Int32] [frames, lanes], 24-bit
        def read(from = 0, count = frames)
          part = bytes(from, count)
          return Numo::Int32.new(0, lanes) if part.empty?
          return Audio::Pcm24.from_wav(part, lanes) if @format == PCM

          Audio::Pcm24.from_float(Numo::DFloat.cast(Numo::SFloat.from_binary(part, [part.bytesize / @frame_bytes, lanes])))
        end

        def close = @file.close

        private

        def read_chunks
          known = Wav.each_chunk(@file) do |id, size, at|
            case id
            when "fmt " then @format, @lanes, @rate, _, @frame_bytes, @bits = @file.pread(16, at).unpack("vvVVvv")
            when "bext" then @bext = Bext.unpack(@file.pread(size.clamp(0, Bext::LONGEST), at))
            when "iXML" then @ixml = @file.pread(size.clamp(1, IXml::LONGEST), at)
            when "data" then data(size, at)
            end
          end
          wrong("is not a WAV file") unless known
        end

        # A header that tells more than is there is believed only as far as the file goes.
        def data(size, at)
          wrong("has samples before their format") unless @frame_bytes
          wrong("has a format that cannot be") unless LANES.cover?(@lanes) && @frame_bytes == @lanes * @bits / 8 && @rate.positive?
          @data_at = at
          @frames = size.clamp(0, [@file.size - @data_at, 0].max) / @frame_bytes
        end

        def wrong(why)
          @file.close
          raise Invalid.new("#{File.basename(@path)} #{why}.", where: @path)
        end
      end
    end
  end
end
