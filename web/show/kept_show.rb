# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    # A copy of the open show in a file. If PostgreSQL is offline at the start, the application still knows what to capture and how the desk should
    # be set. The database remains the authority; edits wait for it.
    class KeptShow
      SHAPE = Shape.record({ "id" => Shape.whole(1..Shape::LARGEST), "version" => Shape.whole(1..Shape::LARGEST), "show" => Shape.record({}, others: true) })

      # @param home [String]   @param shipped [Rig::Catalog]
      def initialize(home, shipped)
        @path, @shipped = File.join(home, "open-show.json"), shipped
      end

      # @param loaded [Store::Shows::Loaded]
      def keep(loaded)
        return if [loaded.id, loaded.version] == @kept

        data = Formats::ShowFile.write(loaded.show, shipped: @shipped.all.map(&:id))
        Runtime::Files.replace(@path, JSON.generate("id" => loaded.id, "version" => loaded.version, "show" => data))
        @kept = [loaded.id, loaded.version]
      end

      # @return [Store::Shows::Loaded, nil]
      def read
        kept = SHAPE.check(Runtime::Files.read_json(@path), File.basename(@path))
        Store::Shows::Loaded.new(id: kept["id"], version: kept["version"], show: Formats::ShowFile.read(kept["show"], @shipped).show)
      rescue SystemCallError, Invalid, KeyError, NoMethodError, TypeError
        nil
      end
    end
  end
end
