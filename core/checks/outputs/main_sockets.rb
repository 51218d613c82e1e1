# frozen_string_literal: true

module Loomshuttle
  module Checks
    # An output that has moved to another socket than the expected one, because output blocks were moved.
    module MainSockets
      def self.findings(context)
        show = context.show
        show.outputs.values.select(&:expected).filter_map do |output|
          sockets = show.sockets_of_output(output.number)
          finding(show, output, sockets) unless sockets.include?(output.expected)
        end
      end

      class << self
        private

        def finding(show, output, sockets)
          what = output.source ? show.label(output.source) : "Output #{output.number}"
          where = sockets.empty? ? "not connected" : "on #{sockets.map { |socket| Rig::Label.for(socket) }.join(' and ')}"
          Finding.new(id: "main-sockets/#{output.number}", check: "main-sockets", severity: Finding::BLOCKS,
                      sentence: "#{what} should be on #{Rig::Label.for(output.expected)}, but is #{where}.",
                      path: [Rig::Point.desk("output", output.number), *sockets], at: [], fix: fix(show, output))
        end

        # The block that ends at the expected socket carries the output again.
        def fix(show, output)
          show.profile.outlet_blocks.each do |block, points|
            at = points.index { |point| show.layout.sockets_of_outlet(point).include?(output.expected) } or next
            first = output.number - at
            return Steps::Completed.edit(show, "Feed #{Rig::Label.for(output.expected)} with output #{output.number} again", "outlet/#{block}/first" => first) if first.positive?
          end
          nil
        end
      end
    end
  end
end
