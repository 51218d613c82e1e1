# frozen_string_literal: true

module Loomshuttle
  module Steps
    # When tracks move to other card returns, channels that had the old returns as take or stage source can move along in the same edit.
    module ReturnFollowers
      # words: for people; settings: that move them, to be set along with the edit
      Offer = Value.define(:words, :settings)
      SIDES = { take: "take", stage: "stage" }.freeze

      class << self
        # @param before [Settings::Show]   @param after [Settings::Show] with the edit
        # @return [Offer, nil] nil if no track or channel is left behind
        def of(before, after)
          return if before.rig.desk != after.rig.desk

          moves = moves(before, after)
          settings = moves.empty? ? {} : SIDES.keys.map { |side| followers(before, after, side, moves) }.reduce(:merge)
          return if settings.empty?

          names = settings.keys.map { |path| after.channels[path[/\d+/].to_i].title }.uniq
          Offer.new(words: words(names, settings), settings: Completed.settings(after, settings))
        rescue Invalid
          nil # they cannot move: the losses say what they lose
        end

        private

        # @return [Hash{Integer=>Integer}] returns that nothing plays to any more => where it plays then
        def moves(before, after)
          tracks = before.tracks.map { |number, track| [track.outputs, after.tracks[number]&.outputs.to_a] }.select { |old, new| old.size == new.size }
          streams = [before, after].map { |show| show.playback_returns.map(&:number) } # the last one of a card may be narrower
          fed = fed(after)
          [*tracks, streams].flat_map { |old, new| old.zip(new) }.reject { |old, new| new.nil? || old == new || fed.include?(old) }.to_h
        end

        def fed(show) = show.tracks.values.flat_map(&:outputs) + show.playback_returns.map(&:number)

        # A channel of two sides moves where both do, side by side.
        def followers(before, after, side, moves)
          after.channels.values.each_with_object({}) do |channel, found|
            heard = channel[side]
            next unless heard&.card? && heard == before.channels[channel.number][side]

            lanes = Array.new(after.profile.channel_points(channel.number).size) { |at| moves[heard.number + at] }
            found["channel/#{channel.number}/#{side}"] = Rig::Point.card_return(lanes.first).name if lanes.all? && lanes.each_cons(2).all? { |left, right| right == left + 1 }
          end
        end

        def words(names, settings)
          to = settings.values.map { |name| Rig::Point.of(name).number }.uniq.sort
          "#{names.first(6).join(', ')}#{" and #{names.size - 6} more" if names.size > 6} #{names.size == 1 ? 'hears' : 'hear'} what is left behind; " \
            "#{names.size == 1 ? 'it' : 'they'} can move along to card #{to.size == 1 ? 'return' : 'returns'} #{to.join(', ')}."
        end
      end
    end
  end
end
