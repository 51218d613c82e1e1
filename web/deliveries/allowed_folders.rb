# frozen_string_literal: true

module Loomshuttle
  module Web
    # The folders of this computer that people may read and write: those that were allowed at the start, and everything below them.
    class AllowedFolders
      # Where people's files are on a Debian system.
      USUAL = ["/media", "/mnt", "/run/media", "/srv", Dir.home].freeze
      MOUNTS = "/proc/self/mounts"

      # @param folders [Array<String>, nil] nil for the usual ones   @param mounts [String] file that lists mounted disks (proc(5))
      def initialize(folders = nil, mounts: MOUNTS)
        @folders, @mounts = folders || USUAL, mounts
      end

      # @return [String] shown to people
      def words = "#{@folders.join(', ')}. Whoever starts Loomshuttle allows others with LOOMSHUTTLE_DELIVERIES"

      # @param real [String] path with symbolic links resolved
      def cover?(real) = @folders.any? { |allowed| File.directory?(allowed) && "#{real}/".start_with?("#{File.realpath(allowed).chomp('/')}/") }

      # A path outside gets the same answer as one that does not exist.
      # @param path [String] as typed
      # @return [String, nil] the path with symbolic links resolved; nil outside, whether it exists or not
      # @raise [SystemCallError] if a path inside cannot be read
      def allowed(path)
        return unless path.start_with?("/") && !path.include?("\0")

        plain = File.expand_path(path)
        real = File.realpath(plain)
        real if cover?(real)
      rescue SystemCallError
        raise if @folders.any? { |allowed| "#{plain}/".start_with?("#{File.expand_path(allowed).chomp('/')}/") } && cover?(nearest(plain))
      end

      # @param folder [String] as typed
      # @return [String] the path with symbolic links resolved, writable
      # @raise [Invalid] if it does not exist, is not allowed, or is not writable
      def writable(folder)
        shown = Text.readable(folder)
        real = allowed(folder) or raise Invalid.new("#{shown} is not below the folders that are written to: #{words}.", where: "folder")
        raise Errno::ENOENT unless File.directory?(real)
        raise Invalid.new("#{shown} cannot be written to; look at whom it belongs to, and whether the disk is protected.", where: "folder") unless File.writable?(real)

        real
      rescue Errno::ENOENT
        raise Invalid.new("There is no folder #{shown}.", where: "folder")
      rescue SystemCallError, ArgumentError => e
        raise Invalid.new("#{shown} cannot be written to: #{Text.readable(e.message)}", where: "folder")
      end

      # @return [Array<Hash>] mounted, writable disks below them: folder, name, free_bytes
      def disks
        File.readlines(@mounts).filter_map { |line| unescaped(line.split[1].to_s) }.uniq.select { |folder| folder != "/" && File.directory?(folder) && cover?(folder) }
          .filter_map { |folder| told(folder) }
      rescue SystemCallError
        []
      end

      private

      # @return [String] the innermost folder of a path that is there, without links
      def nearest(path)
        path = File.dirname(path) until File.exist?(path) || File.symlink?(path)
        File.realpath(path)
      rescue SystemCallError
        "/" # a link to nothing leads outside, for all that anybody can tell
      end

      # Blanks and the like are written as octal numbers there.
      def unescaped(path) = path.gsub(/\\([0-7]{3})/) { Regexp.last_match(1).oct.chr }.force_encoding(Encoding::UTF_8).then { |text| text if text.valid_encoding? }

      def told(folder)
        free = Runtime::FreeBytes.of(folder)
        { folder: folder, name: File.basename(folder), free_bytes: free } if free&.positive? && File.writable?(folder)
      end
    end
  end
end
