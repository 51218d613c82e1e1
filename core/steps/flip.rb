# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Flips channels between stage and take.
    module Flip
      # @param to ["stage", "take"]
      # @param channels [Array<Integer>, nil] nil: every channel that can (to take: every one with a take source)
      # @return [Settings::Edit]
      # @raise [Invalid] if a given channel has no source there
      def self.edit(show, to:, channels: nil)
        raise Invalid.new("A channel is on stage or on take, not on \"#{to}\".", where: "to") unless Settings::POSITIONS.include?(to)

        numbers = channels ? named(show, to, channels) : possible(show, to)
        raise Invalid.new("No channel has a take source, so none can go to take.", where: "channels") if numbers.empty?

        words = numbers.size == 1 ? show.channels[numbers.first].title : "#{numbers.size} channels"
        settings = Completed.settings(show, numbers.to_h { |number| ["channel/#{number}/position", to] })
        words = "#{settings.size} channels" if settings.size > numbers.size
        Settings::Edit.set("#{words} to #{to}", settings)
      end

      class << self
        private

        def possible(show, to) = show.channels.values.select { |channel| to == "stage" || channel.take }.map(&:number)

        def named(show, to, channels)
          channels.each do |number|
            channel = show.channels[number] or raise Invalid.new("There is no channel #{number}.", where: "channels")
            next if to == "stage" || channel.take

            raise Invalid.new("#{channel.title} has no take source; set one in Patch.", where: "channel/#{number}/take")
          end
        end
      end
    end
  end
end
