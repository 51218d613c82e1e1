# frozen_string_literal: true

module Loomshuttle
  module Supervisor
    # All ports of one instance, counted from the web's, so that two instances whose --port are 40 apart never meet.
    Ports = Value.define(:web) do
      def database = web + 1
      def osc = web + 2
      # Of the playback interface: the word clock that it follows, its lanes and the clock that it tells, of the first computer and, one
      # further, of a second one, and the cables from its outputs. Streams are two apart.
      def word_clock = web + 3
      def lanes = web + 4
      def player_clock = web + 8
      def cables = web + 11
      # TCP, on which a second computer's player may follow this one's.
      def twin = web + 15
      # UDP, on which a foot switch says what it wants (OSC).
      def foot = web + 17
      # UDP, on which the desk's card tells its clock to the player.
      def card_clock = web + 19
      # First of the card's streams each way; streams are two apart, as RTP asks (RFC 3550, 11).
      def sends = web + 10
      def returns = web + 26
    end
  end
end
