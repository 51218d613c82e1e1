# frozen_string_literal: true

module Loomshuttle
  module Settings
    # A mono or stereo track of the recorder. inputs are card sends, outputs card returns; each list is empty or has
    # one lane (mono) or two (stereo, left first). A name of "" and a colour of nil are its source's. shares names a group
    # of tracks that are meant to share a return; "" is none.
    Track = Value.define(:number, :name, :colour, :stereo, :inputs, :outputs, :armed, :shares) do
      def width = stereo ? 2 : 1

      def used? = !inputs.empty? || !outputs.empty?

      # @param direction ["in", "out"]
      # @return [Array<String>] its points, one a lane
      def points(direction)
        return ["track/#{number}/#{direction}"] unless stereo

        %w[l r].map { |side| "track/#{number}/#{direction}/#{side}" }
      end
    end
  end
end
