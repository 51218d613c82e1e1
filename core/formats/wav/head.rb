# frozen_string_literal: true

module Loomshuttle
  module Formats
    module Wav
      # A file's head: what stands before the samples, and the sizes in it. Room for "ds64" is kept from the start, as EBU Tech
      # 3306 has it, so that a file turns from RIFF into RF64 by a few bytes in place, without interruption.
      module Head
        # Bytes of a "ds64" chunk's data without a table.
        DS64 = 28

        # @param frame_bytes [Integer] of all lanes together
        # @param chunks [Array<Array(String, String)>] id and data of the chunks before the format chunk
        # @return [String] the file's bytes up to the first sample
        def self.build(lanes:, rate:, bits:, frame_bytes:, chunks:)
          float = bits == 32
          format = [float ? FLOAT : PCM, lanes, rate, rate * frame_bytes, frame_bytes, bits].pack("vvVVvv")
          format << [0].pack("v") if float
          list = [["JUNK", "\0" * DS64], *chunks, ["fmt ", format]]
          list << ["fact", [0].pack("V")] if float
          body = "WAVE".b << list.map { |id, data| chunk(id, data) }.join << "data" << [0].pack("V")
          "RIFF".b << [body.bytesize].pack("V") << body
        end

        # @return [String] a chunk with its header, padded to an even length
        def self.chunk(id, data) = id.b << [data.bytesize].pack("V") << data.b << ("\0" * (data.bytesize % 2))

        # Writes the true sizes into the head.
        # @param file [File] open for reading and writing
        # @param data_at [Integer] byte at which the samples start   @param data [Integer] bytes of samples
        # @param size [Integer] bytes of the whole file      @param frames [Integer]
        # @raise [Invalid] if the file is too large for RIFF and has no room for a "ds64" chunk
        def self.tell(file, data_at:, data:, size:, frames:)
          return tell_long(file, data_at, data, size, frames) if size - 8 >= ELSEWHERE

          file.pwrite(["RIFF", size - 8].pack("a4V"), 0)
          file.pwrite([data].pack("V"), data_at - 4)
          file.pwrite("JUNK", 12) if file.pread(4, 12) == "ds64"
        end

        class << self
          private

          # First the sizes in "ds64", then the markers that send readers there.
          def tell_long(file, data_at, data, size, frames)
            room = file.pread(8, 12).unpack("a4V")
            raise Invalid.new("The file is full: its head has no room to tell more than 4 GiB.", where: file.path) unless [["JUNK", DS64], ["ds64", DS64]].include?(room)

            file.pwrite([size - 8, data, frames, 0].pack("Q<Q<Q<V"), 20)
            file.pwrite("ds64", 12)
            file.pwrite([ELSEWHERE].pack("V"), data_at - 4)
            file.pwrite(["RF64", ELSEWHERE].pack("a4V"), 0)
          end
        end
      end
    end
  end
end
