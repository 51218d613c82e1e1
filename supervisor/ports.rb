# frozen_string_literal: true

module Loomshuttle
  module Supervisor
    # All ports of one instance, counted from the web's, so that two instances whose --port are 40 apart never meet.
    Ports = Value.define(:web) do
      def database = web + 1
      def osc = web + 2
      # Ports of the playback interface: its word clock input, its lanes and the clock it sends, for the first computer and, one
      # higher, for a second one, and the cables from its outputs. Streams are two apart.
      def word_clock = web + 3
      def lanes = web + 4
      def player_clock = web + 8
      def cables = web + 11
      # TCP port for a second computer's player that follows this one.
      def twin = web + 15
      # UDP port for a foot switch (OSC).
      def foot = web + 17
      # UDP port for the clock of the desk's card, for the player.
      def card_clock = web + 19
      # First port of the card's streams each way; streams are two apart, as RTP requires (RFC 3550, 11).
      def sends = web + 10
      def returns = web + 26
    end
  end
end
