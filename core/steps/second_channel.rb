# frozen_string_literal: true

module Loomshuttle
  module Steps
    # A second channel on the same socket, for another treatment of the same sound: a voice for the house and for the ears.
    module SecondChannel
      # @param show [Settings::Show]   @param number [Integer] of the first
      # @return [Settings::Edit] that lets the next channel nobody uses hear the same; named after the first, off main
      # @raise [Invalid] when the channel hears nothing, or none is free
      def self.edit(show, number)
        first = show.channels[number] or raise Invalid.new("There is no channel #{number}.", where: "channel")
        raise Invalid.new("#{first.title} hears nothing on stage, so there is nothing for a second channel to hear.", where: "channel/#{number}/stage") unless first.stage

        width = show.profile.strip(number).width
        free = show.channels.values.select { |one| !one.used? && !one.fixed && show.profile.strip(one.number).width == width }
        second = free.find { |one| one.number > number } || free.first or raise Invalid.new("No channel is free for a second treatment of #{first.title}.", where: "channels")
        at = "channel/#{second.number}"
        same = { "name" => "#{first.title[0, Settings::NAME - 2]} 2", "stage" => first.stage.name, "colour" => first.colour, "main" => false }
        Settings::Edit.set("Let channel #{second.number} hear #{first.title} as well", Completed.settings(show, same.transform_keys { |field| "#{at}/#{field}" }))
      end
    end
  end
end
