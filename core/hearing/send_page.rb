# frozen_string_literal: true

module Loomshuttle
  module Hearing
    # The levels at which channels are sent to one mix, as the desk has them.
    module SendPage
      # channel: its number; name: of the level (Signal::MixedLevels); db: nil if unknown; off: whether it is fully down; tap: where it is taken
      Row = Value.define(:channel, :title, :dye, :name, :db, :off, :tap, :muted)

      class << self
        # @param survey [Survey]   @param bus [Integer] a mix, or the left one of a pair
        # @return [Array<Row>] channels in use, in order
        # @raise [Invalid] if there is no such mix
        def of(survey, bus)
          show, mix = survey.show, Signal::Mix.new(survey.show)
          raise Invalid.new("There is no bus #{bus} on the #{show.profile.name}.", where: "bus") unless show.buses.key?(bus)
          raise Invalid.new("#{show.label(show.buses[bus].point)} is a subgroup: its members have no send levels.", where: "bus") if mix.group?(bus)

          leader = mix.leader(bus)
          show.channels.values.select(&:used?).map { |channel| row(channel, "channel/#{channel.number}", leader, mix, survey.values) }
        end

        private

        def row(channel, at, bus, mix, values)
          db = values["#{at}/send/#{bus}"]
          Row.new(channel: channel.number, title: channel.title, dye: channel.colour, name: "#{at}/send/#{bus}", db: db, off: !db.nil? && db <= Signal::MixedLevels::OFF,
                  tap: mix.tap(channel.number, bus), muted: values["#{at}/mute"] == true)
        end
      end
    end
  end
end
