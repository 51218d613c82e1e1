# frozen_string_literal: true

module Loomshuttle
  module Formats
    module Wav
      # Makes a file true that was never closed, or gives one that was another tail.
      module Mend
        # @param path [String]
        # @return [Integer] whole frames that are in the file, whatever its header says
        # @raise [Invalid] when it has no header
        def self.frames_on_disk(path)
          at, frame_bytes = layout(path)
          (File.size(path) - at) / frame_bytes
        end

        # Cuts a file behind a wanted frame, and ends it there.
        # @param frames [Integer] length to keep; at most frames_on_disk
        # @param tail [String] chunks that stand behind the samples (Markers)
        # @return [void]
        def self.cut(path, frames, tail = "")
          at, frame_bytes = layout(path)
          size = frames * frame_bytes
          File.open(path, "r+b") do |file|
            file.truncate(at + size)
            file.seek(0, IO::SEEK_END)
            file.write(("\0" * (size % 2)) << tail)
            file.flush
            Head.tell(file, data_at: at, data: size, size: file.size, frames: frames)
            file.fsync
          end
        end

        # @return [Array(Integer, Integer)] where the samples start, and bytes a frame
        def self.layout(path)
          start = frame_bytes = nil
          File.open(path, "rb") do |file|
            Wav.each_chunk(file) do |id, _, at|
              frame_bytes = file.pread(2, at + 12).unpack1("v") if id == "fmt "
              start = at if id == "data"
            end
          end
          raise Invalid.new("#{File.basename(path)} has no WAV header.", where: path) unless start && frame_bytes&.positive? && start <= File.size(path)

          [start, frame_bytes]
        end
        private_class_method :layout
      end
    end
  end
end
