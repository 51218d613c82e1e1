# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Main without an output socket. Plans without any output are not checked.
    module MainNowhere
      # Sides that an audience hears: left and right, or the only one.
      SIDES = 2

      def self.findings(context)
        show = context.show
        return [] unless begun?(show) && (show.channels.values.any? { |channel| channel.used? && channel.main } || show.buses.values.any?(&:main))

        show.profile.mains.first(SIDES).map { |side| Rig::Point.main(side) }.reject { |point| comes_out?(show, point) }.map { |point| finding(show, point) }
      end

      class << self
        private

        def begun?(show)
          show.outputs.values.any? { |output| output.source || output.expected } || (show.outlets.values.any?(&:first) && show.listeners.values.any?)
        end

        # Directly, or by a matrix that feeds the main speakers.
        def comes_out?(show, point)
          show.outputs.values.any? do |output|
            (output.source == point || (output.source&.kind == "matrix" && output.speaker == "main")) && show.sockets_of_output(output.number).any?
          end
        end

        def finding(show, point)
          Finding.new(id: "main-nowhere/#{point.side}", check: "main-nowhere", severity: Finding::BLOCKS, sentence: "#{show.label(point)} does not reach an output socket.",
                      path: [point.at("post-fader")], at: [], fix: fix(show, point))
        end

        # An output that carries nothing and has a socket.
        def fix(show, point)
          free = show.outputs.values.find { |output| output.source.nil? && output.expected.nil? && !show.sockets_of_output(output.number).empty? } or return
          Settings::Edit.set("Send #{show.label(point)} to output #{free.number}", "output/#{free.number}/source" => point.name)
        end
      end
    end
  end
end
