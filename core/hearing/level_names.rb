# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # Names and words of all levels on a desk that somebody may set (Signal::MixedLevels).
    module LevelNames
      class << self
        # @param desk [Rig::Desk]
        # @return [Set<String>] names of all levels of the desk
        def of(desk) = desk.memo(:level_names) { (channels(desk) + mixes(desk) + outputs(desk)).to_set.freeze }

        # @param show [Settings::Show]   @param name [String]
        # @return [String] e.g. "Fiddle, send to Bus 5 Ear Ada"
        def words(show, name)
          kind, number, what, to = name.split("/")
          return "Main, #{number}" if kind == "main"

          item = kind == "channel" ? show.channels[number.to_i].title : show.label(Rig::Point.desk(kind, number))
          return "#{item}, #{what}" unless to
          return "#{item}, send to #{show.label(Rig::Point.desk('bus', to))}" if what == "send"

          "#{item}, from #{show.label(Rig::Point.of("desk/#{what}/#{to}"))}"
        end

        # @return [String] the value as shown to people
        def told(name, value)
          case name
          when %r{/mute\z} then { true => "muted", false => "open" }.fetch(value, "unknown")
          when %r{/pan\z} then value.nil? ? "unknown" : format("%.2f", value)
          else value.nil? ? "unknown" : decibels(value)
          end
        end

        private

        def decibels(value) = value <= Signal::MixedLevels::OFF ? "off" : Level.words(value)

        def channels(desk)
          desk.strips.flat_map do |strip|
            at = "channel/#{strip.number}"
            ["#{at}/fader", "#{at}/mute", "#{at}/pan"] + (1..desk.buses).map { |bus| "#{at}/send/#{bus}" }
          end
        end

        def mixes(desk)
          buses = (1..desk.buses).flat_map { |bus| ["bus/#{bus}/fader", "bus/#{bus}/mute", "bus/#{bus}/pan"] }
          matrices = (1..desk.matrices).flat_map do |matrix|
            at = "matrix/#{matrix}"
            ["#{at}/fader", "#{at}/mute"] + desk.into_matrix.map { |base| "#{at}/#{base.kind}/#{base.number || base.side}" }
          end
          buses + %w[main/fader main/mute] + matrices
        end

        def outputs(desk) = (1..desk.mix_outputs).flat_map { |output| ["output/#{output}/trim", "output/#{output}/mute"] }
      end
    end
  end
end
