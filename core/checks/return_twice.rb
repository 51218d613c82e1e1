# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A card return that goes straight to outputs which an audience hears, and by a channel into main as well, is heard twice.
    module ReturnTwice
      def self.findings(context)
        show = context.show
        heard = show.channels.values.select { |channel| channel.position == "take" ? channel.take : channel.stage }
          .flat_map { |channel| lanes(show, channel).map { |point| [point, channel] } }.group_by(&:first)
        main_outputs(show).filter_map do |output|
          channel = heard[output.source]&.map(&:last)&.find { |one| feeds_main?(show, one) }
          finding(show, output, channel) if channel
        end
      end

      class << self
        private

        def lanes(show, channel)
          from = channel.position == "take" ? channel.take : channel.stage
          show.profile.channel_points(channel.number).each_index.map { |side| from.beside(side) }.select { |point| point&.card? }
        end

        # Those that areas of the PA hear, or that feed the main speakers.
        def main_outputs(show)
          names = show.listeners.values.select { |one| one.kind == "area" }.flat_map { |one| one.hears + one.hears_right }
          show.outputs.values.select { |output| output.source&.card? && (output.speaker == "main" || names.include?("desk/output/#{output.number}")) }
        end

        def feeds_main?(show, channel)
          mix = Signal::Mix.new(show)
          channel.main || channel.groups.any? { |bus| mix.group?(bus) && mix.bus_on_main?(bus) }
        end

        def finding(show, output, channel)
          outlet = Rig::Point.desk("output", output.number)
          Finding.new(id: "return-twice/#{output.number}", check: "return-twice", severity: Finding::BLOCKS,
                      sentence: "#{Rig::Label.for(output.source)} is heard twice: straight from output #{output.number}, and by #{channel.title} on main.",
                      path: [output.source, outlet], at: [], fix: Checks.edit(show, "Take #{channel.title} off main", off(show, channel)))
        end

        def off(show, channel)
          mix = Signal::Mix.new(show)
          { "channel/#{channel.number}/main" => false, "channel/#{channel.number}/groups" => channel.groups.reject { |bus| mix.group?(bus) && mix.bus_on_main?(bus) } }
        end
      end
    end
  end
end
