# frozen_string_literal: true

module Loomshuttle
  module Checks
    # An armed track without a source would record silence. Where the fault lies with a channel on the way, that channel has its own finding.
    module ArmedWithoutSource
      def self.findings(context)
        show = context.show
        heard = heard(context)
        show.tracks.values.select(&:armed).filter_map do |track|
          next if heard[track.number] == track.width

          empty = track.points("in").reject.with_index { |point, side| reached?(context, point) || channel_at_fault?(show, track.inputs[side]) }
          next if empty.empty?

          title = show.title_of(track)
          Finding.new(id: "armed-without-source/#{track.number}", check: "armed-without-source", severity: Finding::BLOCKS,
                      sentence: "#{title} is armed, but nothing reaches #{where(track, title, empty)}.", path: empty, at: empty,
                      fix: Settings::Edit.set("Disarm #{title}", "track/#{track.number}/armed" => false))
        end
      end

      class << self
        private

        def where(track, title, empty)
          whole = title == "Track #{track.number}" ? "it" : "track #{track.number}"
          empty.size < track.width ? "one side of #{whole}" : whole
        end

        # @return [Hash{Integer=>Integer}] tracks, and how many of their sides a strand leads to from a socket that is there
        def heard(context)
          context.strands.select { |strand| strand.track && context.sockets.key?(strand.socket) }.map { |strand| [strand.track, strand.track_lane] }.uniq.map(&:first).tally
        end

        # A socket, a return, or the desk's own mix counts as a source.
        def reached?(context, point)
          Signal::Trace.sources(context.graph, point).any? { |at| at.mix? || at.card_return? || context.sockets.key?(at) }
        end

        # No socket, a missing one, or the card behind a preamp.
        def channel_at_fault?(show, lane)
          channel = show.channel_at(show.sends[lane]&.source)
          channel && (!channel.name.empty? || channel.card_fed?)
        end
      end
    end
  end
end
