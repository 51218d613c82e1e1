# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Captures the main mix post-fader on a spare pair of card sends with a stereo track, to have what the audience heard.
    module SparePair
      # @return [Settings::Edit]
      # @raise [Invalid] if no pair of lanes or no track is free, or the mix is captured already
      def self.edit(show)
        raise Invalid.new("#{show.profile.name} has no main left and right.", where: "mains") unless (%w[l r] - show.profile.mains).empty?
        raise Invalid.new("The main mix is captured already.", where: "sends") if show.sends.values.any? { |send| send.source == Rig::Point.main("l") }

        lane = free_lane(show) or raise Invalid.new("No two neighbouring card sends are free.", where: "sends")
        track = show.tracks.values.find { |one| one.number >= lane && one.free? } || show.tracks.values.find(&:free?) or
          raise Invalid.new("No track is free.", where: "tracks")
        Settings::Edit.set("Capture the main mix on card sends #{lane} and #{lane + 1}",
                           "send/#{lane}/source" => "desk/main/l", "send/#{lane}/tap" => "post-fader",
                           "send/#{lane + 1}/source" => "desk/main/r", "send/#{lane + 1}/tap" => "post-fader",
                           "track/#{track.number}/stereo" => true, "track/#{track.number}/inputs" => [lane, lane + 1], "track/#{track.number}/outputs" => [],
                           "track/#{track.number}/armed" => true)
      end

      class << self
        private

        # The last pair that the card carries now.
        def free_lane(show)
          used = show.tracks.values.flat_map(&:inputs)
          last = [show.card_lanes, show.profile.sends].min
          (1...last).step(2).to_a.reverse.find { |lane| [lane, lane + 1].none? { |one| show.sends[one].source || used.include?(one) } }
        end
      end
    end
  end
end
