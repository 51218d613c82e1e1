# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A personal mix is made by the player; faders of front of house should not change what it is made of (common practice, no published source).
    module PersonalPostFader
      class << self
        def findings(context)
          show = context.show
          lanes = show.personal_lanes.values.select { |lane| show.point_of_output(lane)&.tap == "post-fader" && Steps::PersonalTaps.follows_house?(show, lane.source) }
          lanes.empty? ? [] : [finding(show, lanes)]
        end

        private

        def finding(show, lanes)
          what = lanes.size == 1 ? "#{show.label(lanes.first.source)} in personal mix #{lanes.first.number} is" : "#{lanes.size} personal mixes are"
          Finding.new(id: "personal-post-fader/#{lanes.map(&:number).join('-')}", check: "personal-post-fader", severity: Finding::LOOK,
                      sentence: "#{what} taken post-fader: faders of front of house change what the player hears.",
                      path: [show.point_of_output(lanes.first), lanes.first.point], at: lanes.map(&:point),
                      fix: Steps::Completed.edit(show, "Take #{lanes.size == 1 ? "personal mix #{lanes.first.number}" : "#{lanes.size} personal mixes"} pre-fader",
                                                 lanes.to_h { |lane| ["personal/#{lane.number}/tap", Steps::PersonalTaps::PRE] }))
        end
      end
    end
  end
end
