# frozen_string_literal: true

module Loomshuttle
  module Formats
    module Wav
      # Writes one file. Samples go to the operating system at once. `refresh` updates the sizes in the header, so that a file that is never
      # finished still opens.
      class Writer
        # @return [Integer] sample frames written
        attr_reader :frames
        # @return [String]
        attr_reader :path

        # @param path [String] must not exist
        # @param bext [Bext]  @param ixml [String, nil] (IXml)
        # @param bits [24, 32] 32 is float
        # @raise [Errno::EEXIST] rather than write over something
        def initialize(path, bext:, ixml: nil, lanes: 1, rate: 48_000, bits: 24)
          @path = path
          @frame_bytes = lanes * bits / 8
          @frames = 0
          @file = File.open(path, File::RDWR | File::CREAT | File::EXCL | File::BINARY)
          @file.sync = true
          head = Head.build(lanes: lanes, rate: rate, bits: bits, frame_bytes: @frame_bytes, chunks: [["bext", bext.pack], ixml && ["iXML", ixml]].compact)
          @data_at = head.bytesize
          @file.write(head)
        end

        # @param bytes [String] whole little-endian frames
        def write(bytes)
          @file.write(bytes)
          @frames += bytes.bytesize / @frame_bytes
        end

        # Adds silence that takes no disk space: a hole in the file.
        # @param frames [Integer]
        def rest(frames)
          @frames += frames
          @file.truncate(@data_at + size)
          @file.seek(0, IO::SEEK_END)
        end

        # Drops everything after the given frame, including a frame that a full disk cut short.
        # @param frames [Integer] at most as many as are written
        def cut(frames)
          @frames = [frames, @frames].min
          @file.truncate(@data_at + size)
          @file.seek(0, IO::SEEK_END)
        end

        # Brings the head up to date with what is written.
        def refresh = Head.tell(@file, data_at: @data_at, data: size, size: @data_at + size, frames: @frames)

        # @param tail [String] chunks to write after the samples (Markers)
        def close(tail = "")
          return if @file.closed?

          @file.write(("\0" * (size % 2)) << tail)
          Head.tell(@file, data_at: @data_at, data: size, size: @file.size, frames: @frames)
          @file.fsync
          @file.close
        end

        private

        def size = @frames * @frame_bytes
      end
    end
  end
end
