# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A link has a limited number of lanes each way at a rate (Rig::Aes50). Sockets beyond them are cut off.
    module LinkOverCapacity
      def self.findings(context)
        show = context.show
        show.profile.ports.filter_map do |port|
          over = { "inputs" => :up, "outputs" => :down }.filter_map do |what, way|
            last = show.layout.chain(port).map { |hung| hung[way].max }.max.to_i
            "#{what} up to lane #{last}" if last > show.layout.link_lanes
          end
          finding(show, port, over) unless over.empty?
        end
      end

      class << self
        private

        def finding(show, port, over)
          cut = show.layout.chain(port).select { |hung| hung.up.max > show.layout.link_lanes || hung.down.max > show.layout.link_lanes }
          Finding.new(id: "link-over-capacity/#{port}", check: "link-over-capacity", severity: Finding::BLOCKS,
                      sentence: "Link #{port.upcase} carries #{show.layout.link_lanes} lanes each way at #{(show.rate / 1000.0).to_s.delete_suffix('.0')} kHz, " \
                                "but its boxes have #{over.join(' and ')}.",
                      path: cut.map { |hung| hung.socket("in", 1) }, at: cut_sources(show, port), fix: fix(show, cut.last))
        end

        def cut_sources(show, port)
          show.channels.values.filter_map(&:stage).select { |point| point.link? && point.letter == port && show.layout.source(point).missing }
        end

        # A port with nothing on it yet takes the last box; else a lower rate that the desk can do.
        def fix(show, hung)
          free = show.profile.ports.find { |port| show.layout.chain(port).empty? }
          if free && [hung.box.inputs, hung.box.outputs].max <= show.layout.link_lanes
            moved = { "port" => free, "place" => 1, "input_offset" => 0, "output_offset" => 0 }.transform_keys { |field| "box/#{hung.letter}/#{field}" }
            return Settings::Edit.set("Move #{hung.title} to port #{free.upcase}", moved)
          end

          rate = show.profile.rates.find { |one| Rig::Aes50.lanes(one) > show.layout.link_lanes } or return
          Settings::Edit.set("Run the rig at #{rate / 1000} kHz", "rig/rate" => rate)
        end
      end
    end
  end
end
