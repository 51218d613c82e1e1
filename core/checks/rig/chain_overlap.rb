# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Chained boxes share a link; where their offsets overlap, two sockets sit on one lane.
    module ChainOverlap
      def self.findings(context)
        show = context.show
        show.profile.ports.flat_map do |port|
          chain = show.layout.chain(port)
          chain.combination(2).select { |one, other| overlap?(one.up, other.up) || overlap?(one.down, other.down) }
            .map { |one, other| finding(show, port, one, other) }
        end
      end

      class << self
        private

        def overlap?(one, other) = one.min && other.min && one.min <= other.max && other.min <= one.max

        def finding(show, port, one, other)
          what = { "inputs" => :up, "outputs" => :down }.select { |_, way| overlap?(one[way], other[way]) }
            .map { |words, way| "#{words} on lanes #{[one[way].min, other[way].min].max} to #{[one[way].max, other[way].max].min}" }
          lanes = show.layout.up.select { |_, sockets| sockets.size > 1 }.keys
          Finding.new(id: "chain-overlap/#{one.id}/#{other.id}", check: "chain-overlap", severity: Finding::BLOCKS,
                      sentence: "#{one.title} and #{other.title} overlap on link #{port.upcase}: #{what.join(' and ')}.",
                      path: [one, other].map { |hung| hung.socket("in", 1) }, at: lanes, fix: fix(show, port))
        end

        # Offsets one behind the other, in the order of the chain.
        def fix(show, port) = Settings::Edit.set("Set the offsets of link #{port.upcase} in order", Steps::Chain.offsets(show.layout.chain(port)))
      end
    end
  end
end
