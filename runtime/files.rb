# frozen_string_literal: true

require "fileutils"
require "json"

module Loomshuttle
  module Runtime
    # Files that are replaced whole, read with a bound, moved between disks, and kept from other users.
    module Files
      # No JSON file of ours is larger.
      LARGEST = 16 << 20

      # Everything that a process makes from now on belongs to its user alone (folders 0700, files 0600).
      def self.private! = File.umask(0o077)

      # @param path [String]   @param text [String] that it holds afterwards; who reads it sees the old one or the new one
      # @raise [SystemCallError] and then the old one stays
      def self.replace(path, text)
        File.write("#{path}.new", text)
        File.rename("#{path}.new", path)
      rescue SystemCallError
        FileUtils.rm_f("#{path}.new")
        raise
      end

      # @param pattern [String] as Dir.glob takes it; the folder's own name may hold any letter
      # @return [Array<String>] paths, by name
      def self.matching(folder, pattern) = Dir.glob(pattern, base: folder).map { |name| File.join(folder, name) }

      # @return [Object] of a JSON file
      # @raise [Invalid] when it is too large or no JSON   @raise [SystemCallError]
      def self.read_json(path)
        raise Invalid.new("#{path} is larger than #{LARGEST >> 20} MiB.", where: path) if File.size(path) > LARGEST

        Document.keep(JSON.parse(File.read(path, encoding: "UTF-8"), max_nesting: 32), File.basename(path))
      rescue JSON::ParserError, EncodingError, ArgumentError
        raise Invalid.new("#{File.basename(path)} is damaged: it is no JSON.", where: path)
      end

      # Moves a folder, to another disk as well: there it gets its name only once all of it has arrived, and only then the old one goes.
      # @raise [SystemCallError] and then the old one is as it was
      def self.move(from, to)
        File.rename(from, to)
      rescue Errno::EXDEV
        arriving = File.join(File.dirname(to), ".arriving-#{File.basename(to)}")
        FileUtils.rm_rf(arriving)
        begin
          FileUtils.cp_r(from, arriving, preserve: true)
          matching(arriving, "**/*").each { |path| File.open(path, &:fsync) if File.file?(path) }
          File.rename(arriving, to)
        rescue SystemCallError
          FileUtils.rm_rf(arriving)
          raise
        end
        FileUtils.rm_rf(from)
      end
    end
  end
end
