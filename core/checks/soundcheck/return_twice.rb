# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A card return that reaches an audience twice: directly by an output, and through a channel on main.
    module ReturnTwice
      def self.findings(context)
        show = context.show
        mix = Signal::Mix.new(show)
        on_main = show.channels.values.select { |channel| channel.hears && (channel.main || mix.on_main(channel.groups).any?) }
        heard = on_main.flat_map { |channel| lanes(show, channel).map { |point| [point, channel] } }.reverse.to_h
        main_outputs(show).filter_map do |output|
          channel = heard[output.source]
          finding(show, output, channel) if channel
        end
      end

      class << self
        private

        def lanes(show, channel)
          show.profile.channel_points(channel.number).each_index.map { |side| channel.hears.beside(side) }.select { |point| point&.card? }
        end

        # Those that areas of the PA hear, or that feed the main speakers.
        def main_outputs(show)
          names = show.listeners.values.select { |one| one.kind == "area" }.flat_map(&:outlets)
          show.outputs.values.select { |output| output.source&.card? && (output.speaker == "main" || names.include?(output.point.name)) }
        end

        def finding(show, output, channel)
          Finding.new(id: "return-twice/#{output.number}", check: "return-twice", severity: Finding::BLOCKS,
                      sentence: "#{Rig::Label.for(output.source)} is heard twice: straight from output #{output.number}, and by #{channel.title} on main.",
                      path: [output.source, output.point], at: [], fix: Steps::Completed.edit(show, "Remove #{channel.title} from main", off(show, channel)))
        end

        def off(show, channel)
          { "channel/#{channel.number}/main" => false, "channel/#{channel.number}/groups" => channel.groups - Signal::Mix.new(show).on_main(channel.groups) }
        end
      end
    end
  end
end
