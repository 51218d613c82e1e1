# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Sets the tap of a personal mix to pre-fader when it is given its first source, unless the edit names another tap. Players mix for themselves, so
    # the faders at front of house should not change what they hear (common practice, no published source). A bus in mix mode keeps its tap, since
    # its fader belongs to the player's mix.
    module PersonalTaps
      PRE = "pre-fader"
      PATH = %r{\Apersonal/(\d+)/source\z}
      private_constant :PATH

      class << self
        # @param show [Settings::Show]   @param settings [Hash{String=>Object}] of an edit
        # @return [Hash{String=>Object}] them, and the taps of personal mixes that had no source before
        def settings(show, settings)
          settings.each_with_object(settings.dup) do |(path, value), all|
            lane = show.personal_lanes[PATH.match(path)&.[](1).to_i] or next
            tap = "personal/#{lane.number}/tap"
            all[tap] = PRE if lane.source.nil? && value && !settings.key?(tap) && follows_house?(show, Rig::Point.read(value))
          end
        end

        # @param source [Rig::Point, nil] of a personal mix
        # @return [Boolean] whether faders of front of house would change it, and the desk can take it before them
        def follows_house?(show, source)
          return false if source.nil? || !show.profile.mixing.taps_of(source).include?(PRE)

          source.kind != "bus" || show.buses[source.number].mode == "subgroup"
        end
      end
    end
  end
end
