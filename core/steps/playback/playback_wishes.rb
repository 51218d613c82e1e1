# frozen_string_literal: true

module Loomshuttle
  module Steps
    # The usual requirements for playback: no audience hears click or guide, drummers hear the click, singers and leaders the guide, and only
    # machines the pilot.
    module PlaybackWishes
      DRUMS = /\b(?:drum|percussion|perc|cajon|frame)/i
      VOICES = /\b(?:voice|vocal|sing|lead|md)/i
      AUDIENCE = %w[area broadcast].freeze
      NONE = "Click, guide and pilot already have requirements, or have no listeners: see listeners in Outputs, and outputs in Playback."

      class << self
        # @param show [Settings::Show]   @param survey [Hearing::Survey] of it
        # @return [Settings::Edit]
        # @raise [Invalid] if there are no roles or listeners to protect
        def edit(show, survey)
          ways = Hearing::RoleWays.of(survey)
          wishes = show.roles.values.reject { |role| ways.fetch(role.number).empty? }.flat_map { |role| of_role(show, role, ways.fetch(role.number)) }
          wishes -= show.wishes.values.map { |wish| [wish.kind, wish.sources, wish.listeners] }
          raise Invalid.new(NONE, where: "wish") if wishes.empty?

          keys = show.wishes.keys
          numbered = wishes.each.with_index(keys.max.to_i + 1).to_h { |wish, key| [key, wish] }
          settings = { "wish/order" => keys + numbered.keys }
          numbered.each { |key, (kind, sources, listeners)| settings.merge!("wish/#{key}/kind" => kind, "wish/#{key}/sources" => sources, "wish/#{key}/listeners" => listeners) }
          Settings::Edit.set("Requirements for click, guide and pilot", settings)
        end

        private

        def of_role(show, role, sources)
          case role.kind
          when "click" then [never(sources, audience(show)), reach(sources, by_name(show, DRUMS))]
          when "guide" then [never(sources, audience(show)), reach(sources, by_name(show, VOICES))]
          when "pilot", "timecode" then [never(sources, show.listeners.values.reject { |one| one.kind == "machine" }.map(&:number))]
          else []
          end.compact
        end

        def never(sources, listeners) = listeners.empty? ? nil : ["never", sources, listeners]
        def reach(sources, listeners) = listeners.empty? ? nil : ["reach", sources, listeners]
        def audience(show) = show.listeners.values.select { |one| AUDIENCE.include?(one.kind) }.map(&:number)
        def by_name(show, words) = show.listeners.values.select { |one| words.match?(one.name) && !AUDIENCE.include?(one.kind) }.map(&:number)
      end
    end
  end
end
