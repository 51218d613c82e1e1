# frozen_string_literal: true

module Loomshuttle
  module Checks
    # The mode of the card has fewer lanes than are patched. The others are silent.
    module CardMode
      def self.findings(context)
        show = context.show
        cut = show.tracks.values.flat_map { |track| track.inputs + track.outputs }.select { |lane| lane > show.card_lanes }.uniq.sort
        return [] if cut.empty?

        points = cut.map { |lane| Rig::Point.card_send(lane) }
        mode, lanes = show.profile.card_modes.max_by(&:last)
        sentence = "The card carries #{show.card_lanes} lanes each way, but the tracks use #{cut.size} more, up to lane #{cut.last}."
        fix = Settings::Edit.set("Set the card to #{mode}", "setup/card_mode" => mode) if lanes >= cut.last
        [Finding.new(id: "card-mode", check: "card-mode", severity: Finding::BLOCKS, sentence: sentence,
                     path: points, at: points, fix: fix)]
      end
    end
  end
end
