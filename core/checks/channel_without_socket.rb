# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A channel that is planned for something, but hears no socket on stage.
    module ChannelWithoutSocket
      def self.findings(context)
        context.show.channels.values.select { |channel| channel.used? && channel.stage.nil? }.map do |channel|
          finding(context.show, channel)
        end
      end

      class << self
        private

        def finding(show, channel)
          base = show.profile.channel_points(channel.number).first
          Finding.new(id: "channel-without-socket/#{channel.number}", check: "channel-without-socket", severity: Finding::LOOK,
                      sentence: "#{channel.title} (channel #{channel.number}) hears no socket.", path: ["#{base}@preamp"], at: show.profile.channel_points(channel.number),
                      fix: fix(show, channel))
        end

        # The socket of the channel's own number if it is free, else the first free one.
        def fix(show, channel)
          taken = show.channels.values.filter_map(&:stage)
          choices = Patch::Choices.for(show, "hears_on_stage", channel.number).drop(1)
          free = choices.reject { |choice| taken.include?(choice.settings.values.first) }
          choice = free.find { |one| one.settings.values.first == "desk/in/#{channel.number}" } || free.first or return
          Patch::Edit.set("Patch #{choice.label} to #{channel.title}", choice.settings)
        end
      end
    end
  end
end
