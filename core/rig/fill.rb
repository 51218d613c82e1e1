# frozen_string_literal: true

module Loomshuttle
  module Rig
    # The load of links and card, in both directions.
    module Fill
      # used: lanes that carry something planned; sockets: lanes that have a socket behind them (for a card: lanes of the
      # mode); lanes: what the cable or card carries at all
      Way = Value.define(:used, :sockets, :lanes)

      # @param show [Settings::Show]
      # @return [Hash{String=>Hash{Symbol=>Way}}] port => :up and :down
      def self.links(show)
        heard = show.channels.values.filter_map(&:stage).uniq
        fed = fed_lanes(show)
        show.profile.ports.to_h do |port|
          [port, { up: way(show, show.layout.up, port, heard), down: way(show, show.layout.down, port, fed) }]
        end
      end

      # @return [Hash{Symbol=>Way}] :up towards the recorder, :down back to the desk
      def self.card(show)
        lanes = show.card_lanes
        sends = show.sends.values.select(&:source).map(&:lane)
        returns = (show.tracks.values.flat_map(&:outputs) + show.returns_heard).uniq
        { up: Way.new(used: sends.size, sockets: [lanes, show.profile.sends].min, lanes: show.profile.sends),
          down: Way.new(used: returns.size, sockets: [lanes, show.profile.returns].min, lanes: show.profile.returns) }
      end

      class << self
        private

        def way(show, lanes, port, used)
          mine = lanes.keys.select { |point| point.letter == port }
          Way.new(used: (mine & used).size, sockets: mine.size, lanes: show.layout.link_lanes)
        end

        def fed_lanes(show)
          show.outlets.values.select(&:first).flat_map do |outlet|
            show.profile.outlet_blocks.fetch(outlet.block).select.with_index { |_, at| show.outputs[outlet.first + at]&.source }
          end
        end
      end
    end
  end
end
