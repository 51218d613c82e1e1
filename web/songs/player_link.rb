# frozen_string_literal: true

module Loomshuttle
  module Web
    # The line to the player.
    class PlayerLink < PartLink
      LATER = { "load" => 10, "sound" => 15, "sound.devices" => 15 }.freeze

      # @param on_meters [Proc] called with the levels of the outputs
      def initialize(path, on_up:, on_meters:, on_state:)
        super(path, on_up: on_up, on_state: on_state, told: { "meters" => on_meters, "status" => on_state })
      end

      private

      def name = "player"
      def later = LATER
    end
  end
end
