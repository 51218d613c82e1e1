# frozen_string_literal: true

module Loomshuttle
  module Checks
    # An armed track that nothing reaches would write silence.
    module ArmedWithoutSource
      def self.findings(context)
        context.show.tracks.values.select(&:armed).filter_map do |track|
          empty = track.points("in").reject { |point| reached?(context, point) }
          next if empty.empty?

          which = empty.size < track.width ? "one side of track" : "track"
          Finding.new(id: "armed-without-source/#{track.number}", check: "armed-without-source", severity: Finding::BLOCKS,
                      sentence: "#{track.title} is armed, but nothing reaches #{which} #{track.number}.", path: empty, at: empty,
                      fix: Patch::Edit.set("Disarm #{track.title}", "track/#{track.number}/armed" => false))
        end
      end

      # A socket, a return, or the desk's own mix counts as a source.
      def self.reached?(context, point)
        Signal::Trace.sources(context.graph, point).any? { |at| at.match?(%r{\Adesk/(in|line|bus|main)/|\Acard/return/}) }
      end
      private_class_method :reached?
    end
  end
end
