# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A personal-mix system carries 16 lanes (common practice, no published source). Nobody can mix the others.
    module PersonalLanes
      MOST = 16

      def self.findings(context)
        over = context.show.personal_lanes.values.select { |lane| lane.source && lane.number > MOST }
        return [] if over.empty?

        points = over.map(&:point)
        fix = Settings::Edit.set("Empty personal mixes over #{MOST}", over.to_h { |lane| ["personal/#{lane.number}/source", nil] })
        [Finding.new(id: "personal-lanes", check: "personal-lanes", severity: Finding::BLOCKS,
                     sentence: "#{over.size} personal #{over.size > 1 ? 'mixes' : 'mix'} over #{MOST} #{over.size > 1 ? 'are' : 'is'} in use; " \
                               "a personal-mix system carries #{MOST}.",
                     path: points, at: [], fix: fix)]
      end
    end
  end
end
