# frozen_string_literal: true

module Loomshuttle
  module Checks
    # A return in use that no track plays to, or only one side of it. Plans without any returns are not checked. On stage, another program may feed
    # a return, unless songs use the card.
    module ReturnUnfed
      class << self
        def findings(context)
          show = context.show
          fed = show.tracks.values.flat_map(&:outputs) + show.playback_returns.map(&:number) + show.setup.own_mix
          return [] if fed.empty?

          by_card = show.playback.returns.any?
          pairs(show).flat_map { |title, take, stage| [[title, take - stage, "on take"], *([[title, stage, "on stage"]] if by_card)] }
            .filter_map { |title, points, where| finding(title, points, where, points.reject { |point| fed.include?(point.number) }) }
        end

        private

        # @return [Array<Array(String, Array<Rig::Point>, Array<Rig::Point>)>] title, and card returns of both sides, on take and on stage
        def pairs(show)
          show.channels.values.filter_map do |channel|
            right = channel.paired ? show.channels[channel.number + 1] : nil
            wide = show.profile.channel_points(channel.number).size > 1
            next unless right || wide

            [channel.title, *%i[take stage].map { |side| (wide ? [channel[side], channel[side]&.beside(1)] : [channel[side], right[side]]).compact.select(&:card?) }]
          end
        end

        def finding(title, points, where, silent)
          return if silent.empty? || points.empty?

          numbers = silent.map(&:number)
          Finding.new(id: "return-unfed/#{points.first.name}", check: "return-unfed", severity: Finding::LOOK,
                      sentence: "#{title} hears card #{numbers.size == 1 ? 'return' : 'returns'} #{numbers.join(' and ')} #{where}, and nothing plays there.",
                      path: silent, at: silent, fix: nil)
        end
      end
    end
  end
end
