# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The card's streams, as the desk describes them in two files (SDP) in the home folder.
    class CardDescription
      # @return [Array<Formats::Sdp::Stream>] what arrives, and what goes back
      attr_reader :sends, :returns

      # @param home [String]
      # @raise [Invalid] for an encoding other than L24
      # @raise [SystemCallError] while there is no description
      def initialize(home)
        @files = %w[card-sends.sdp card-returns.sdp].map { |name| File.join(home, name) }
        @sends, @returns = read
      end

      # @return [Boolean] whether the desk now describes another card; a desk that only restarted describes the same
      def changed?
        read != [@sends, @returns]
      rescue SystemCallError, Invalid
        false # it is being written
      end

      private

      def read = @files.map { |file| Formats::Sdp.read(File.read(file)) }
    end
  end
end
