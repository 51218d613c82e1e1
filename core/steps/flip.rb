# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Flips channels between stage and take.
    module Flip
      # @param to ["stage", "take"]
      # @param channels [Array<Integer>, nil] nil: every channel that can (to take: every one with a take source)
      # @param tracks [Array<Integer>, nil] of a take: only channels that hear one of these tracks on take
      # @return [Settings::Edit] its label counts the channels that move, and is "All channels" where the plan has them there already
      # @raise [Invalid] if a given channel has no source there
      def self.edit(show, to:, channels: nil, tracks: nil)
        raise Invalid.new("A channel is on stage or on take, not on \"#{to}\".", where: "to") unless Settings::POSITIONS.include?(to)

        numbers = channels ? named(show, to, channels) : possible(show, to)
        numbers &= of_take(show, tracks) if tracks
        raise Invalid.new("No channel has a take source#{' with a track of this take' if tracks}, so none can go to take.", where: "channels") if numbers.empty?

        settings = Completed.settings(show, BothSides.settings(show, numbers.to_h { |number| ["channel/#{number}/position", to] }, ->(channel) { to == "stage" || channel.take }))
        Settings::Edit.set("#{words(show, settings)} to #{to}", settings)
      end

      class << self
        private

        def words(show, settings)
          moving = settings.reject { |path, value| show.get(path) == value }.keys.map { |path| show.channels[path[%r{\Achannel/(\d+)/}, 1].to_i] }.uniq
          return "All channels" if moving.empty?

          moving.size == 1 ? moving.first.title : "#{moving.size} channels"
        end

        def of_take(show, tracks)
          lanes = show.tracks.values_at(*tracks).compact.flat_map(&:outputs)
          show.channels.values.select { |channel| channel.take && lanes.include?(channel.take.number) }.map(&:number)
        end

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
