# frozen_string_literal: true

require "json"

module Loomshuttle
  module Recorder
    # A take's manifest: the JSON file beside its files, which tells everything about it without any database
    # (docs/formats.md). Written whole each time, so that a reader never sees half of one.
    module Manifest
      FILE = "take.json"
      FORMAT = "loomshuttle-take/1"

      # @param folder [String] the take's folder
      # @param data [Hash]
      def self.write(folder, data)
        path = File.join(folder, FILE)
        File.write("#{path}.new", JSON.pretty_generate(data))
        File.rename("#{path}.new", path)
      end

      # @param frames [Integer] where the files really end
      # @return [Hash] the manifest with nothing behind that, and rests that reach to it
      def self.ending(data, frames)
        cut = ->(list) { list.to_a.select { |one| one["at"] < frames }.map { |one| one.merge("frames" => [one["frames"], frames - one["at"]].min) } }
        tracks = data["tracks"].map do |track|
          rests = track.fetch("rests", []).select { |at, _| at < frames }.map { |at, length| [at, [length || frames, frames - at].min] }
          track.merge("frames" => frames, "rests" => rests)
        end
        data.merge("frames" => frames, "tracks" => tracks, "gaps" => cut.call(data["gaps"]), "breaks" => data["breaks"].to_a.select { |one| one["at"] < frames },
                   "markers" => data["markers"].to_a.select { |one| one["at"] <= frames }.map { |one| one.merge("frames" => [one["frames"].to_i, frames - one["at"]].min) })
      end

      # @return [Hash, nil] nil where there is none, or none that can be read
      def self.read(folder)
        data = JSON.parse(File.read(File.join(folder, FILE)))
        data if data.is_a?(Hash) && data["format"] == FORMAT
      rescue SystemCallError, JSON::ParserError
        nil
      end

      # @param root [String] folder of all takes
      # @return [Array<Array(String, Hash)>] each take's folder and manifest, oldest first
      def self.all(root)
        return [] unless Dir.exist?(root)

        Dir.children(root).sort.filter_map do |entry|
          folder = File.join(root, entry)
          data = read(folder)
          [folder, data] if data
        end
      end
    end
  end
end
