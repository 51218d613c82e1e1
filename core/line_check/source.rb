# frozen_string_literal: true

module Loomshuttle
  module LineCheck
    # One line of the line check: a channel with a stage source, and where its level is measured.
    #   number    of the channel     stage   what it hears     socket   the socket behind that
    #   meter     "desk" or "lanes", or nil where the stage cannot be measured now; at   indices in its frames
    #   lanes     card sends (0-based) that carry it as it comes from the preamp or the card
    #   gain      dB at the desk, nil without a preamp     preamp   Rig::Preamp or nil
    Source = Value.define(:number, :name, :dye, :stage, :socket, :meter, :at, :lanes, :gain, :preamp, :phantom, :mic) do
      # @return [Array] what a measurement depends on; when it changes, measuring starts over
      def setting = [stage, meter, at, gain, phantom]

      # @return [String] e.g. "Channel 7 Fiddle"
      def title = "Channel #{number} #{name}".strip
    end
  end
end
