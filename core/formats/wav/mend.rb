# frozen_string_literal: true

module Loomshuttle
  module Formats
    module Wav
      # Closes a file whose writer ended too early, or replaces the chunks after its samples.
      module Mend
        # Chunks that stand behind the samples (Markers); a file may have ended while it got them.
        TAIL = ["cue ", "LIST"].freeze
        # Bytes behind the length in the head that are searched for such a tail. More than a second of sound is never ahead of the head.
        SEARCHED = 8 << 20
        private_constant :TAIL, :SEARCHED

        # @param path [String]
        # @return [Integer] whole frames present in the file, whatever its header says; chunks after the samples do not count
        # @raise [Invalid] when it has no header
        def self.frames_on_disk(path)
          at, frame_bytes, told = layout(path)
          (samples_end(path, at, told) - at) / frame_bytes
        end

        # Cuts a file to the given length, or fills it up with silence.
        # @param frames [Integer] length afterwards
        # @param tail [String] chunks to write after the samples (Markers)
        # @param sync [Boolean] whether to wait until the disk has it
        # @return [void]
        def self.cut(path, frames, tail = "", sync: true)
          at, frame_bytes, told = layout(path)
          size = frames * frame_bytes
          kept = (samples_end(path, at, told) - at) / frame_bytes * frame_bytes
          File.open(path, "r+b") do |file|
            tell = lambda do |whole|
              Head.tell(file, data_at: at, data: size, size: whole, frames: frames)
              file.fsync if sync
            end
            tell.call(at + size) if told == size # a power cut while the tail is exchanged leaves a file without one
            file.truncate(at + [size, kept].min)
            file.truncate(at + size)
            file.seek(0, IO::SEEK_END)
            file.write(("\0" * (size % 2)) << tail)
            file.flush
            file.fsync if sync
            tell.call(file.size)
          end
        end

        class << self
          private

          # @return [Array(Integer, Integer, Integer)] where the samples start, bytes a frame, and bytes of samples as the head tells them
          def layout(path)
            start = frame_bytes = told = nil
            File.open(path, "rb") do |file|
              Wav.each_chunk(file) do |id, size, at|
                frame_bytes = file.pread(2, at + 12).unpack1("v") if id == "fmt "
                start, told = at, size if id == "data"
              end
            end
            raise Invalid.new("#{File.basename(path)} has no WAV header.", where: path) unless start && frame_bytes&.positive? && start <= File.size(path)

            [start, frame_bytes, told]
          end

          # @return [Integer] where the samples end: at a tail, or with the file
          def samples_end(path, start, told)
            File.open(path, "rb") do |file|
              from = [start + told, file.size].min
              rest = file.pread([file.size - from, SEARCHED].min, from) if file.size > from
              rest ? from + (tail_in(rest, file.size - from) || (file.size - from)) : file.size
            end
          end

          # A tail is known by its chunks, which lead exactly to the end of the file.
          # @return [Integer, nil] where it begins in these bytes
          def tail_in(bytes, left)
            at = -1
            while (at = bytes.index("cue ".b, at + 1))
              return at if chunks_to_end?(bytes, at, left)
            end
          end

          def chunks_to_end?(bytes, at, left)
            while at + 8 <= left
              id, size = bytes.byteslice(at, 8)&.unpack("a4V")
              return false unless TAIL.include?(id) && size

              at += 8 + size + (size % 2)
            end
            at == left
          end
        end
      end
    end
  end
end
