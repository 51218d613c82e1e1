# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A subgroup with channels in it and no destination.
    module GroupNowhere
      def self.findings(context)
        show = context.show
        mix = Signal::Mix.new(show)
        members = show.channels.values.flat_map { |channel| channel.groups.map { |bus| [mix.leader(bus), channel] } }.group_by(&:first)
        members.select { |bus, _| mix.group?(bus) && !mix.bus_on_main?(bus) && !BusWithoutSocket.heard?(show, show.buses[bus].point) }
          .map { |bus, list| finding(show, show.buses[bus], list.map(&:last)) }
      end

      class << self
        private

        def finding(show, bus, channels)
          many = channels.size == 1 ? channels.first.title : "#{channels.size} channels"
          Finding.new(id: "group-nowhere/#{bus.number}", check: "group-nowhere", severity: channels.any?(&:main) ? Finding::LOOK : Finding::BLOCKS,
                      sentence: "Subgroup #{show.label(bus.point)} has #{many} in it, but no destination.",
                      path: [bus.point.at("post-fader")], at: [], fix: fix(show, bus))
        end

        def fix(show, bus)
          return unless show.profile.mixing.bus_to_main

          Steps::Completed.edit(show, "Put #{show.label(bus.point)} on main", "bus/#{bus.number}/main" => true)
        end
      end
    end
  end
end
