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
