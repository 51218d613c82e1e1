# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Adds a second channel on the same socket, to treat the same source differently: a voice for the house and for in-ears.
    module SecondChannel
      # @param show [Settings::Show]   @param number [Integer] of the first
      # @param main [Boolean] whether the second one feeds main too
      # @return [Settings::Edit] gives the next unused channel the same stage and take source; it is named after the first
      # @raise [Invalid] if the channel has no source, or no channel is free
      def self.edit(show, number, main: false)
        first = show.channels[number] or raise Invalid.new("There is no channel #{number}.", where: "channel")
        raise Invalid.new("#{first.title} hears nothing on stage, so there is nothing for a second channel to hear.", where: "channel/#{number}/stage") unless first.stage

        width = show.profile.strip(number).width
        free = show.channels.values.select { |one| !one.used? && !one.fixed && show.profile.strip(one.number).width == width }
        second = free.find { |one| one.number > number } || free.first or raise Invalid.new("No channel is free for a second treatment of #{first.title}.", where: "channels")
        at = "channel/#{second.number}"
        same = { "name" => "#{first.title[0, Settings::NAME - 2]} 2", "stage" => first.stage.name, "colour" => first.colour, "main" => main }
        settings = Completed.settings(show, same.transform_keys { |field| "#{at}/#{field}" })
        Settings::Edit.set("Let channel #{second.number} hear #{first.title} as well", with_take(show, settings, first, at))
      end

      class << self
        private

        # Its take side is the first one's: it flips with the others, and is where the first one is. On a desk that moves take sources in
        # blocks, others would move along; it goes without.
        def with_take(show, settings, first, at)
          return settings unless first.take

          more = { "#{at}/take" => first.take.name, **(show.profile.flip == "block" ? {} : { "#{at}/position" => first.position }) }
          whole = Completed.settings(show, settings.merge(more))
          others = whole.select { |path, value| path.match?(%r{\Achannel/\d+/(take|position)\z}) && !more.key?(path) && show.fetch(path) != value }
          others.empty? ? whole : settings
        rescue Invalid
          settings
        end
      end
    end
  end
end
