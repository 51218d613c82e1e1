# frozen_string_literal: true

require "fileutils"
require "time"

module Loomshuttle
  module Runtime
    # Moves unusable files (a configuration, a rig, a memory) aside, so that they are not tried again, and lists them. Nothing is deleted.
    class Aside
      # Most entries listed, newest first.
      SHOWN = 20
      WHY = ".why"

      # @param home [String] folder of this instance
      def initialize(home)
        @folder = File.join(home, "aside")
      end

      # @param path [String] of a file or folder   @param why [String]
      # @return [String, nil] a sentence for people; nil if there is nothing at the path
      def put(path, why)
        return unless File.exist?(path)

        FileUtils.mkdir_p(@folder, mode: 0o700)
        name = "#{Time.now.utc.strftime('%Y%m%dT%H%M%S.%L')} #{File.basename(path)}"
        Files.move(path, File.join(@folder, name))
        Files.write(File.join(@folder, "#{name}#{WHY}"), why)
        "#{File.basename(path)} was put aside in #{@folder}: #{why}".tap { |words| Log.now.warn(words) }
      end

      # Reads a JSON file; one that cannot be read is set aside.
      # @param path [String]
      # @yieldparam data [Object] parsed
      # @yieldreturn [Object] the result; raising Invalid sets the file aside
      # @return [Object, nil] nil for a missing file, or one that was set aside
      def read(path)
        return unless File.exist?(path)

        yield Files.read_json(path)
      rescue Invalid, SystemCallError => e
        put(path, e.message)
        nil
      end

      # @return [Array<Hash>] name, why and at, newest first
      def list
        Files.matching(@folder, "*#{WHY}").last(SHOWN).reverse.map do |path|
          stamp, name = File.basename(path, WHY).split(" ", 2)
          { "name" => name, "why" => Text.readable(File.read(path), most: 400), "at" => Time.strptime(stamp, "%Y%m%dT%H%M%S").utc.iso8601 }
        rescue SystemCallError, ArgumentError
          nil
        end.compact
      end
    end
  end
end
