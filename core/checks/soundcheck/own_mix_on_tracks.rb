# frozen_string_literal: true

module Loomshuttle
  module Checks
    # The recorder mix on returns that carry tracks: at soundcheck those channels would play the whole band.
    module OwnMixOnTracks
      def self.findings(context)
        show = context.show
        lanes = show.setup.own_mix
        tracks = show.tracks.values.select { |track| track.outputs.intersect?(lanes) }
        return [] if tracks.empty?

        names = Text.list(tracks.map { |track| show.title_of(track) })
        points = lanes.map { |lane| Rig::Point.card_return(lane) }
        [Finding.new(id: "own-mix-on-tracks", check: "own-mix-on-tracks", severity: Finding::BLOCKS,
                     sentence: "The recorder mix leaves on card returns #{lanes.join(' and ')}, which carry #{names}.",
                     path: [Rig::Point.own_mix("l"), *points], at: points, fix: fix(show))]
      end

      # Moves the mix to the last free pair, or turns it off.
      def self.fix(show)
        taken = show.returns_heard + show.tracks.values.flat_map(&:outputs)
        pair = (1...show.profile.returns).step(2).to_a.reverse.map { |lane| [lane, lane + 1] }.find { |lanes| !lanes.intersect?(taken) && lanes.last <= show.card_lanes }
        Settings::Edit.set(pair ? "Move the recorder mix to card returns #{pair.join(' and ')}" : "Turn off the recorder mix", "setup/own_mix" => pair || [])
      end
      private_class_method :fix
    end
  end
end
