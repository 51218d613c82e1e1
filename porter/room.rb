# frozen_string_literal: true

module Loomshuttle
  module Porter
    # The disk space that a job may use: never what a capture needs. A disk without takes, such as a stick, may be filled. Checked before a job and
    # while it runs.
    class Room
      # Stays free where takes are (bytes), and so much of the take under way beside it (seconds).
      RESERVE = 512 << 20
      AHEAD = 1800
      # The disk is asked at most so often (seconds), and asking takes at most one part in SHARE of the time, for it is slow on a busy computer.
      EVERY, SHARE = 0.5, 20

      # @param folder [String] of the job   @param takes [String] folder of all takes
      # @param free [Proc] returns the free bytes of a folder's disk, or nil
      def initialize(folder, takes, free: Runtime::FreeBytes.method(:of))
        @folder, @takes, @free = folder, takes, free
      end

      # @param bytes [Integer] still to be written
      # @raise [Invalid] if the disk does not have room for them
      def check(bytes = 0)
        return if @again && Runtime::Clock.now < @again

        left = ask or return
        lacking = keep + bytes - left
        return unless lacking.positive?

        @again = nil
        kept = keep.positive? ? ", as #{megabytes(keep)} MB are kept free#{' for the take under way' if capturing}" : ""
        raise Invalid.new("The disk has no room for it: #{megabytes(lacking)} MB are missing#{kept}. Make room, or try again afterwards.", where: "disk")
      end

      private

      def ask
        from = Runtime::Clock.now
        left = @free.call(@folder)
        took = Runtime::Clock.now - from
        @again = from + took + [EVERY, SHARE * took].max
        left
      end

      def megabytes(bytes) = (bytes / 1_048_576.0).ceil
      def keep = beside_takes? ? RESERVE + capturing.to_i : 0

      # Where nobody can tell, it counts as the same disk.
      def beside_takes?
        File.stat(@takes).dev == File.stat(@folder).dev
      rescue SystemCallError
        true
      end

      # @return [Integer, nil] bytes that the take under way needs, where it is on the same disk
      def capturing
        return unless beside_takes?

        take = newest.find { |manifest| manifest["state"] == "capturing" } or return
        take["tracks"].sum { |track| track["inputs"].size } * take["rate"] * take["bits"] / 8 * AHEAD
      end

      # The one under way has one of the highest numbers.
      def newest
        return [] unless Dir.exist?(@takes)

        Dir.children(@takes).grep(/\A\d{1,7} /n).max_by(3, &:to_i).filter_map do |entry|
          Formats::TakeManifest.read(File.join(@takes, entry))
        rescue SystemCallError, Invalid
          nil
        end
      end
    end
  end
end
