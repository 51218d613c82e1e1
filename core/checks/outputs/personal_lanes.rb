# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A personal-mix system takes 16 lanes (common practice, no published source); what is on further ones nobody can mix.
    module PersonalLanes
      MOST = 16

      def self.findings(context)
        over = context.show.personal_lanes.values.select { |lane| lane.source && lane.number > MOST }
        return [] if over.empty?

        points = over.map(&:point)
        fix = Settings::Edit.set("Empty personal mixes over #{MOST}", over.to_h { |lane| ["personal/#{lane.number}/source", nil] })
        [Finding.new(id: "personal-lanes", check: "personal-lanes", severity: Finding::BLOCKS,
                     sentence: "#{over.size} personal mix#{'es' if over.size > 1} over #{MOST} carry something; a personal-mix system takes #{MOST}.",
                     path: points, at: [], fix: fix)]
      end
    end
  end
end
