# frozen_string_literal: true

module Loomshuttle
  module Settings
    # What the engineer sets of one input channel.
    #   stage     source it hears on stage ("desk/in/7", "link/a/up/17", "card/return/31"), or nil; a stereo channel
    #             hears it and its neighbour
    #   take      card return it hears on take ("card/return/7"), or nil; likewise
    #   position  "stage" or "take"
    #   gain      preamp gain in dB        phantom  48 V at its socket
    #   colour    one of Settings::DYES       mic, stand  words for the stage
    #   spot      where the source stands: left, centre, right or nil
    #   paired    whether it is the left of a stereo pair with the next channel
    #   fixed     whether auto-patch must leave it where it is
    Channel = Value.define(:number, :name, :short, :colour, :stage, :take, :position, :gain, :phantom, :mic, :stand, :spot, :paired, :fixed) do
      # @return [String] the name, or its number where it has none
      def title = name.empty? ? "Channel #{number}" : name

      # @return [Boolean] whether anything is planned for it
      def used? = !name.empty? || !stage.nil? || !take.nil?
    end
  end
end
