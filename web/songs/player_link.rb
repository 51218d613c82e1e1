# frozen_string_literal: true

module Loomshuttle
  module Web
    # The line to the player, as that to the recorder. Its thread:
    #   hears the player   takes levels and state, notices when nothing comes any more, and comes back when the player does
    class PlayerLink < RecorderLink
      LATER = { "load" => 10, "sound" => 15, "sound.devices" => 15 }.freeze

      # @param path [String] of the socket
      # @param on_up [Proc]   @param on_meters [Proc]   @param on_state [Proc] takes a status, or nil when it has gone
      def initialize(path, on_up:, on_meters:, on_state:)
        super(path, on_up: on_up, on_meters: on_meters, on_second: ->(_) {}, on_state: on_state, on_status: on_state)
      end

      private

      def name = "player"
      def later = LATER
    end
  end
end
