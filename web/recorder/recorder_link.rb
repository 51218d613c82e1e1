# frozen_string_literal: true

module Loomshuttle
  module Web
    # The line to the recorder.
    class RecorderLink < PartLink
      LATER = { "capture.stop" => 75, "capture.rest" => 65, "capture.start" => 10, "capture.over" => 10, "play" => 10, "trip.measure" => 12, "take.change" => 60,
                "take.adopt" => 900, "bin.empty" => 120, "bin" => 15, "devices" => 12, "device.choose" => 15 }.freeze

      # @param on_meters [Proc] called with position, peak, rms, capture and playback
      # @param on_second [Proc] called with hum and pairs (Recorder::Listening)
      # @param on_status [Proc] called with the status every second
      def initialize(path, on_up:, on_meters:, on_second:, on_state:, on_status:)
        super(path, on_up: on_up, on_state: on_state, told: { "meters" => on_meters, "second" => on_second, "status" => on_status })
      end

      private

      def name = "recorder"
      def later = LATER
    end
  end
end
