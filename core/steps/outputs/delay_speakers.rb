# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Sets the delays of all delay speakers to what their positions need.
    module DelaySpeakers
      # @param show [Settings::Show]
      # @return [Settings::Edit]
      # @raise [Invalid] if no speaker has a position, or the desk offers too little delay
      def self.edit(show)
        zones = Timing::SpeakerDelays.zones(show)
        raise Invalid.new("Place a main and a delay speaker first.", where: "output/1/speaker") if zones.empty?

        far = zones.find { |zone| !zone.possible }
        if far
          raise Invalid.new("Output #{far.output} needs #{far.wanted} samples of delay; the #{show.profile.name} offers #{show.profile.mixing.longest_delay(show.rate)}.",
                            where: "output/#{far.output}/delay")
        end

        Settings::Edit.set("Set the delays of #{zones.size} speaker#{'s' if zones.size > 1}", zones.to_h { |zone| ["output/#{zone.output}/delay", zone.wanted] })
      end
    end
  end
end
