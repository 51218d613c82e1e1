# frozen_string_literal: true

module Loomshuttle
  module Checks
    # While a channel is on take, the audience hears the recording instead of the player.
    module LeftOnTake
      def self.findings(context)
        channels = context.show.channels.values.select { |channel| channel.position == "take" }
        return [] if channels.empty?

        what = channels.size == 1 ? "#{channels.first.title} is" : "#{channels.size} channels are"
        [Finding.new(id: "left-on-take", check: "left-on-take", severity: Finding::LOOK,
                     sentence: "#{what} on take: no stage input there.",
                     path: channels.flat_map { |channel| [channel.take, context.show.profile.channel_points(channel.number).first].compact },
                     at: channels.flat_map { |channel| context.show.profile.channel_points(channel.number) },
                     fix: Steps::Flip.edit(context.show, to: "stage"))]
      end
    end
  end
end
