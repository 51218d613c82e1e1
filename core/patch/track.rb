# frozen_string_literal: true

module Loomshuttle
  module Patch
    # A mono or stereo track of the recorder. inputs are card sends, outputs card returns; each list is empty or has
    # one lane (mono) or two (stereo, left first).
    Track = Value.define(:number, :name, :stereo, :inputs, :outputs, :armed) do
      # @return [String]
      def title = name.empty? ? "Track #{number}" : name

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
