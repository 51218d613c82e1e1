# frozen_string_literal: true

require "json"

module Loomshuttle
  module Rig
    # Reads a device profile from its JSON file (profiles/profile.schema.json). The schema checks its fields, and the classes behind it check that
    # they make a possible device.
    module Profile
      FORMAT = "loomshuttle-profile/1"

      # @param path [String] a profile's JSON file
      # @return [Desk, Box, Interface]
      # @raise [Invalid] if the file is not JSON or does not describe a device
      def self.read(path)
        from(JSON.parse(File.read(path)))
      rescue JSON::ParserError => e
        raise Invalid.new("#{File.basename(path)} is not JSON: #{e.message}", where: path)
      end

      # @param data [Hash] the parsed JSON
      # @return [Desk, Box, Interface]
      # @raise [Invalid] says what is missing or impossible, and where
      def self.from(data)
        raise Invalid.new("A profile is a JSON object.", where: "profile") unless data.is_a?(Hash)

        kinds = { "desk" => Desk, "box" => Box, "interface" => Interface }
        kind = kinds[data["kind"]] or
          raise Invalid.new("A profile is for a desk, a box or an interface, not for #{data['kind'].inspect}.", where: "kind")
        kind.new(data)
      rescue KeyError => e
        raise Invalid.new("The profile lacks \"#{e.key}\".", where: data["id"])
      end
    end
  end
end
