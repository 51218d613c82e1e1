# frozen_string_literal: true

module Loomshuttle
  module Settings
    # An output of the playback interface, and the socket of the desk or of a box that it is cabled to, or nil.
    Cable = declare("cable", :cables, :desk, key: :output, keys: ->(_) { (1..PlaybackKinds::OUTPUTS).to_a }, words: ->(_, key) { "Playback output #{key}" }) do
      setting :to, PlaybackKinds.socket.or_none, blank: nil, words: "socket", part: "playback"
    end

    class Cable
      # @return [Rig::Point]
      def point = Rig::Point.playback(output)
    end
  end
end
