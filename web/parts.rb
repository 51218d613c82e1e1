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

      # @return [Array<Hash>] name, state and words of each; none where nobody supervises
      def all
        SHAPE.check(Runtime::Files.read_json(@path), "parts.json")["parts"]
      rescue SystemCallError, Invalid
        []
      end

      # @return [Array<Hash>] name, why and at of what was put aside, newest first
      def aside = @aside.list

      # What was put aside is told to everybody for so long (seconds).
      NEWS = 2 * 3600

      # @return [Array<String>] what somebody at the desk should know
      def troubles(now = Time.now)
        given_up = all.filter_map { |part| part["words"] || "The #{part['name']} keeps failing; retrying." if part["state"] == "given up" }
        given_up + aside.select { |one| now - Time.iso8601(one["at"]) < NEWS }.map { |one| "#{one['name']} was moved aside: #{one['why']}" }
      end
    end
  end
end
