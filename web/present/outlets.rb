# frozen_string_literal: true

module Loomshuttle
  module Web
    # Output blocks in the terms of the API.
    module Outlets
      # @param show [Settings::Show]
      # @return [Array<Hash>] number, label, size and settings of each
      def self.of(show)
        show.outlets.values.each.with_index(1).filter_map do |outlet, number|
          points = show.profile.outlet_blocks.fetch(outlet.block)
          sockets = points.flat_map { |point| show.layout.sockets_of_outlet(point) }
          next if sockets.empty?

          ends = [sockets.first, sockets.last].uniq.map { |point| Rig::Label.for(point) }
          outlet.to_h.merge(number: number, label: ends.join(" to "), size: points.size)
        end
      end
    end
  end
end
