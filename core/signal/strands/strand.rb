# frozen_string_literal: true

module Loomshuttle
  module Signal
    # One line of the input list: the whole path of a source, as far as it is patched. Any part may be nil.
    #   socket   Rig::Point                       channel  base point of a channel (or of a mix that is sent)
    #   send     card lane     tap  its tap       track    track number, and track_lane 0 or 1 in a stereo one
    #   return   card lane                        home     base points of the channels that hear the return on take
    Strand = Value.define(:socket, :channel, :send, :tap, :track, :track_lane, :return, :home) do
      # @return [Boolean] whether the take returns to the channel it was recorded from
      def comes_home? = home.include?(channel)

      # @return [Rig::Point, nil]
      def send_point = send && Rig::Point.card_send(send)

      # @return [Rig::Point, nil]
      def return_point = self.return && Rig::Point.card_return(self.return)

      # @return [String] stays the same as long as the path does
      def id = [channel&.dotted, send && "send#{send}", track && "track#{track}", track_lane].compact.join(":")
    end
  end
end
