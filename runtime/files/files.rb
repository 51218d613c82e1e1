# frozen_string_literal: true

require "fileutils"
require "json"

module Loomshuttle
  module Runtime
    # Files that are replaced as a whole, read with a limit, moved between disks, and private to this user.
    module Files
      # No JSON file of ours is larger.
      LARGEST = 16 << 20

      # Makes everything that the process creates from now on private to its user (folders 0700, files 0600).
      def self.private! = File.umask(0o077)

      # @param path [String]   @param text [String] new content; readers see either the old or the new one, even after a
      #   power cut
      # @param sync [Boolean] false gives up that promise for power cuts, for callers that must not wait for the disk
      # @return [true]
      # @raise [SystemCallError] and the old content stays
      def self.replace(path, text, sync: true)
        sync ? write("#{path}.new", text) : File.binwrite("#{path}.new", text)
        sync ? publish("#{path}.new", path) : File.rename("#{path}.new", path)
        true
      rescue SystemCallError
        FileUtils.rm_f("#{path}.new")
        raise
      end

      # Writes a file and waits until it is on the disk.
      # @raise [SystemCallError]
      def self.write(path, bytes)
        File.open(path, "wb") do |file|
          file.write(bytes)
          file.fsync
        end
      end

      # Gives a complete file or folder its final name. Its content must be on the disk already.
      # @raise [SystemCallError]
      def self.publish(from, to)
        File.rename(from, to)
        sync(File.dirname(to))
        sync(File.dirname(from)) unless File.dirname(from) == File.dirname(to)
      end

      # Waits until a file's bytes, or a folder's names, are on the disk.
      # @raise [SystemCallError]
      def self.sync(path)
        File.open(path, &:fsync)
      rescue Errno::EINVAL
        nil # a file system that does not sync folders
      end

      # Waits until a folder and everything in it are on the disk.
      def self.sync_tree(folder) = [*matching(folder, "**/*"), folder].each { |path| sync(path) }

      # @param pattern [String] for Dir.glob; the folder's own name may contain any character
      # @return [Array<String>] paths, by name
      def self.matching(folder, pattern) = Dir.glob(pattern, base: folder).map { |name| File.join(folder, name) }

      # @return [Object] parsed content of a JSON file
      # @raise [Invalid] if it is too large or not valid JSON   @raise [SystemCallError]
      def self.read_json(path)
        raise Invalid.new("#{path} is larger than #{LARGEST >> 20} MiB.", where: path) if File.size(path) > LARGEST

        Document.keep(JSON.parse(File.read(path, encoding: "UTF-8"), max_nesting: 32), File.basename(path))
      rescue JSON::ParserError, EncodingError, ArgumentError
        raise Invalid.new("#{File.basename(path)} is damaged: not valid JSON.", where: path)
      end

      # Moves a folder, also to another disk: it gets its name there after everything was copied, and only then is the old one removed.
      # @raise [SystemCallError] and the old one stays as it was
      def self.move(from, to)
        publish(from, to)
      rescue Errno::EXDEV
        arriving = File.join(File.dirname(to), ".arriving-#{File.basename(to)}")
        FileUtils.rm_rf(arriving)
        begin
          FileUtils.cp_r(from, arriving, preserve: true)
          File.directory?(arriving) ? sync_tree(arriving) : sync(arriving)
          publish(arriving, to)
        rescue SystemCallError
          FileUtils.rm_rf(arriving)
          raise
        end
        FileUtils.rm_rf(from)
      end
    end
  end
end
