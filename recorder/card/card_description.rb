# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The card's streams, as the desk describes them in two files (SDP) in the home folder.
    class CardDescription
      # @return [Array<Formats::Sdp::Stream>] what arrives, and what goes back
      attr_reader :sends, :returns

      # Streams that a card has at most, and lanes of one (RFC 3190's packets of a millisecond hold no more).
      STREAMS, LANES = 64, 32

      # @param home [String]   @param hosts [Array<String>] allowed addresses besides this computer's own
      # @raise [Invalid] for an encoding other than L24, or lanes that no card has
      # @raise [SystemCallError] if there is no description yet
      def initialize(home, hosts: Runtime::CardHosts.others)
        @hosts = hosts
        @files = %w[card-sends.sdp card-returns.sdp].map { |name| File.join(home, name) }
        @sends, @returns = read
      end

      # @return [Boolean] whether the desk now describes a different card; a restart alone changes nothing
      def changed?
        read != [@sends, @returns]
      rescue SystemCallError, Invalid
        false # it is being written
      end

      private

      def read = @files.map { |file| checked(Formats::Sdp.read(File.read(file, 65_536).to_s.scrub), file) }

      def checked(streams, file)
        fits = streams.size.between?(1, STREAMS) && streams.map(&:rate).uniq.size == 1 && streams.all? { |stream| fits?(stream) }
        raise Invalid.new("#{File.basename(file)} describes no card.", where: file) unless fits

        streams
      end

      def fits?(stream)
        stream.lanes.between?(1, LANES) && stream.first.between?(1, 4096) && Formats::TakeManifest::RATES.cover?(stream.rate) && stream.port.between?(1, 65_535) &&
          Runtime::CardHosts.allow?(stream.host, @hosts)
      end
    end
  end
end
