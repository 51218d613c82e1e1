# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A named bus is meant for somebody. Without a socket, a personal lane, a card send or a place on main nobody hears it.
    module BusWithoutSocket
      def self.findings(context)
        show = context.show
        mix = Signal::Mix.new(show)
        full = show.channels.values.flat_map(&:groups).uniq # GroupNowhere tells of those
        show.buses.values.reject { |bus| bus.name.empty? || full.include?(bus.number) || mix.bus_on_main?(bus.number) || heard?(show, bus.point) }
          .map { |bus| finding(show, bus) }
      end

      class << self
        # @param base [Rig::Point] a mix
        # @return [Boolean] whether an output, a personal lane or a card send carries it
        def heard?(show, base)
          (show.sends.values + show.personal_lanes.values).any? { |item| item.source == base } ||
            show.outputs.values.any? { |output| output.source == base && !show.sockets_of_output(output.number).empty? }
        end

        private

        def finding(show, bus)
          Finding.new(id: "bus-without-socket/#{bus.number}", check: "bus-without-socket", severity: Finding::LOOK,
                      sentence: "Bus #{bus.number} (#{bus.name}) is not connected to an output socket.", path: [bus.point.at("post-fader")], at: [], fix: fix(show, bus))
        end

        # A free output that has a socket.
        def fix(show, bus)
          free = show.outputs.values.find { |output| output.source.nil? && output.expected.nil? && !show.sockets_of_output(output.number).empty? } or return
          Settings::Edit.set("Send #{bus.name} to output #{free.number}", "output/#{free.number}/source" => bus.point.name)
        end
      end
    end
  end
end
