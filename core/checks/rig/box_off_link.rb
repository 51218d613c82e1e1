# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A stage box without a link is not heard. A box that feeds others needs a second port.
    module BoxOffLink
      def self.findings(context)
        show = context.show
        loose(show) + ends(show)
      end

      class << self
        private

        def loose(show)
          show.boxes.values.select { |plan| plan.profile && plan.port.nil? }.map do |plan|
            box = show.catalog.fetch("box", plan.profile)
            Finding.new(id: "box-off-link/#{plan.letter}", check: "box-off-link", severity: Finding::BLOCKS,
                        sentence: "#{plan.title} (#{box.name}) is not connected to a link, so nothing plugged into it is heard.",
                        path: [Rig::Point.box(plan.letter, "in", 1)], at: [], fix: connect(show, plan))
          end
        end

        # The first port that has room.
        def connect(show, plan)
          show.profile.ports.each do |port|
            return Steps::Chain.connect(show, plan.letter, port)
          rescue Invalid
            next
          end
          nil
        end

        def ends(show)
          show.profile.ports.flat_map { |port| show.layout.chain(port)[..-2].to_a }.select { |hung| hung.box.ports < 2 }.map do |hung|
            Finding.new(id: "box-off-link/#{hung.id}", check: "box-off-link", severity: Finding::BLOCKS,
                        sentence: "#{hung.title} has only one port and cannot feed the boxes after it on link #{hung.port.upcase}.",
                        path: [hung.socket("in", 1)], at: [], fix: to_the_end(show, hung))
          end
        end

        def to_the_end(show, hung)
          chain = show.layout.chain(hung.port)
          order = (chain - [hung]) + [hung]
          Settings::Edit.set("Move it to the end of the chain", order.each.with_index(1).to_h { |one, place| ["box/#{one.letter}/place", place] })
        end
      end
    end
  end
end
