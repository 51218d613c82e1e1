# frozen_string_literal: true

require "time"

module Loomshuttle
  module Web
    # The state of all processes: what the supervisor reports (parts.json), what was moved aside, and this process's own threads.
    class Parts
      PART = Shape.record({ "name" => Shape.text(most: 40), "state" => Shape.one_of("running", "starting", "given up"),
                            "words" => Shape.or_none(Shape.text(most: 2000, lines: true)) })
      SHAPE = Shape.record({ "parts" => Shape.list(PART, most: 40) })

      # @param home [String] folder of this instance
      def initialize(home)
        @path = File.join(home, "parts.json")
        @aside = Runtime::Aside.new(home)
      end

      # @return [Array<Hash>] name, state and words of each; empty without a supervisor
      def all
        SHAPE.check(Runtime::Files.read_json(@path), "parts.json")["parts"]
      rescue SystemCallError, Invalid
        []
      end

      # @return [Array<Hash>] name, why and at of the files set aside, newest first
      def aside = @aside.list

      # How long a file that was set aside is reported on every screen (seconds).
      NEWS = 2 * 3600

      # @return [Array<String>] sentences that the person at the desk should see
      def troubles(now = Time.now)
        given_up = all.filter_map { |part| part["words"] || "The #{part['name']} keeps failing; retrying." if part["state"] == "given up" }
        given_up + aside.select { |one| now - Time.iso8601(one["at"]) < NEWS }.map { |one| "#{one['name']} was moved aside: #{one['why']}" }
      end
    end
  end
end
