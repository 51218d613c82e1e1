# frozen_string_literal: true

require "json"
require "time"

module Loomshuttle
  module Supervisor
    # How the supervised parts are, for the screens: parts.json in the home folder, written when something has changed.
    class PartsFile
      NAME = "parts.json"

      # @param home [String]
      def initialize(home)
        @path = File.join(home, NAME)
      end

      # @param reports [Array<Hash>] of each part (Child#report)
      def tell(reports)
        return if reports == @told

        Runtime::Files.replace(@path, JSON.generate("at" => Time.now.utc.iso8601, "parts" => reports))
        @told = reports
      rescue SystemCallError => e
        Runtime::Health.trouble(e, "telling how the parts are")
      end
    end
  end
end
