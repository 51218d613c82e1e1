# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A channel that is on main both directly and through a subgroup is too loud, and the subgroup's fader controls only half of it.
    module TwiceOnMain
      def self.findings(context)
        show = context.show
        mix = Signal::Mix.new(show)
        show.channels.values.select { |channel| channel.main && channel.used? }.filter_map do |channel|
          group = mix.on_main(channel.groups).first
          finding(show, channel, group) if group
        end
      end

      class << self
        private

        def finding(show, channel, group)
          bus = show.buses[group]
          points = show.profile.channel_points(channel.number)
          Finding.new(id: "twice-on-main/#{channel.number}", check: "twice-on-main", severity: Finding::LOOK,
                      sentence: "#{channel.title} (channel #{channel.number}) reaches main both directly and through #{show.label(bus.point)}: at the same time, " \
                                "so up to 6 dB louder, without a comb.",
                      path: [points.first.at("post-fader"), bus.point.at("post-fader")], at: points,
                      fix: Steps::Completed.edit(show, "Remove the direct main feed of #{channel.title}", "channel/#{channel.number}/main" => false))
        end
      end
    end
  end
end
