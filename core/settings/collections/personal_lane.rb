# frozen_string_literal: true

module Loomshuttle
  module Settings
    # A lane of a personal-mix system: the base point of what it carries, or nil, and the tap where that is taken.
    PersonalLane = declare("personal", :personal_lanes, :desk, key: :number, keys: ->(desk) { 1..desk.personal_lanes }, words: ->(_, key) { "Personal mix #{key}" }) do
      setting :source, MixKinds.carried.or_none, blank: nil, words: "source", part: "outputs", desk: "personal/%s/from"
      setting :tap, MixKinds.output_tap, blank: "post-fader", words: "tap", part: "outputs", desk: "personal/%s/tap", on: MixKinds::TAPPED
    end

    class PersonalLane
      # @return [Rig::Point] where it leaves the mixer
      def point = Rig::Point.desk("personal", number)
    end
  end
end
