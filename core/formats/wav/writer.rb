# frozen_string_literal: true

module Loomshuttle
  module Formats
    module Wav
      # Writes one file. Samples go to the operating system at once; `refresh` makes the header tell the length so far,
      # so that a file which is never finished still opens.
      class Writer
        # @return [Integer] sample frames written
        attr_reader :frames

        # @param path [String] must not exist
        # @param bext [Bext]
        # @raise [Errno::EEXIST] rather than write over something
        def initialize(path, bext:, lanes: 1, rate: 48_000, bits: 24)
          @frame_bytes = lanes * bits / 8
          @frames = 0
          @file = File.open(path, File::WRONLY | File::CREAT | File::EXCL | File::BINARY)
          @file.sync = true
          head = head(bext.pack, lanes, rate, bits)
          @data_at = head.bytesize
          @file.write(head)
        end

        # @param bytes [String] whole little-endian frames
        # @raise [Invalid] when the file would outgrow RIFF
        def write(bytes)
          raise Invalid.new("The file is full: a WAV file holds at most 4 GiB.", where: @file.path) if size + bytes.bytesize > MAX_DATA_BYTES

          @file.write(bytes)
          @frames += bytes.bytesize / @frame_bytes
        end

        # Makes the header true for what is written.
        def refresh
          @file.pwrite([@data_at - 8 + size + (size % 2)].pack("V"), 4)
          @file.pwrite([size].pack("V"), @data_at - 4)
        end

        def close
          return if @file.closed?

          @file.write("\0") if size.odd?
          refresh
          @file.fsync
          @file.close
        end

        private

        def size = @frames * @frame_bytes

        def head(bext, lanes, rate, bits)
          format = [PCM, lanes, rate, rate * @frame_bytes, @frame_bytes, bits].pack("vvVVvv")
          body = "WAVE".b << chunk("bext", bext) << chunk("fmt ", format) << "data" << [0].pack("V")
          "RIFF".b << [body.bytesize].pack("V") << body
        end

        def chunk(id, data) = id.b << [data.bytesize].pack("V") << data << ("\0" * (data.bytesize % 2))
      end
    end
  end
end
