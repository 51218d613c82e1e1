# frozen_string_literal: true

module Loomshuttle
  module Patch
    # What the engineer sets of one input channel.
    #   stage     base point it hears on stage ("desk/in/7"), or nil; a stereo channel hears it and its neighbour
    #   take      card return it hears on take ("card/return/7"), or nil; likewise
    #   position  "stage" or "take"
    #   gain      preamp gain in dB
    #   colour    one of Patch::DYES
    Channel = Value.define(:number, :name, :short, :colour, :stage, :take, :position, :gain) do
      # @return [String] the name, or its number where it has none
      def title = name.empty? ? "Channel #{number}" : name

      # @return [Boolean] whether anything is planned for it
      def used? = !name.empty? || !stage.nil? || !take.nil?
    end
  end
end
