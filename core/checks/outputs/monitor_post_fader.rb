# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A monitor mix should not follow the faders of front of house (common practice, no published source).
    module MonitorPostFader
      def self.findings(context)
        show = context.show
        mix = Signal::Mix.new(show)
        show.buses.values.filter_map do |bus|
          next if mix.group?(bus.number) || mix.leader(bus.number) != bus.number || !(listener = person(show, mix, bus.number))

          taken = show.channels.values.select { |channel| channel.used? && mix.tap(channel.number, bus.number) == "post-fader" }
          finding(show, bus, listener, taken) unless taken.empty?
        end
      end

      class << self
        private

        # Who hears the bus, or the right one of its pair.
        def person(show, mix, bus)
          outlets = (show.outputs.values + show.personal_lanes.values).select { |item| item.source&.kind == "bus" && mix.leader(item.source.number) == bus }
            .map { |item| item.point.name }
          show.listeners.values.find { |one| one.kind == "person" && one.outlets.intersect?(outlets) }
        end

        def finding(show, bus, listener, channels)
          what = channels.size == 1 ? channels.first.title : "#{channels.size} channels"
          Finding.new(id: "monitor-post-fader/#{bus.number}", check: "monitor-post-fader", severity: Finding::LOOK,
                      sentence: "#{listener.title} hears #{what} in #{show.label(bus.point)} tapped post-fader: faders change the monitor mix.",
                      path: [show.profile.channel_points(channels.first.number).first.at("post-fader"), bus.point.at("pre-eq")], at: [], fix: fix(show, bus, channels))
        end

        def fix(show, bus, channels)
          return unless show.profile.mixing.send_taps.include?("pre-fader")

          single = channels.select { |channel| channel.send_taps.key?(bus.number.to_s) }
          settings = single.to_h { |channel| ["channel/#{channel.number}/send_taps", channel.send_taps.except(bus.number.to_s)] }
          Steps::Completed.edit(show, "Set #{show.label(bus.point)}'s sends to pre-fader", settings.merge("bus/#{bus.number}/tap" => "pre-fader"))
        end
      end
    end
  end
end
