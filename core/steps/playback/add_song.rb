# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Adds a song of the library to the running order, and its roles to the show, with the library's outputs where it has some.
    module AddSong
      class << self
        # @param show [Settings::Show]
        # @param song [String] id   @param title [String]
        # @param roles [Array<Hash>] "name", "kind" and "outputs", from the song library
        # @param at [Integer, nil] place, from 0; nil: the end
        # @return [Settings::Edit]
        def edit(show, song:, title:, roles:, at: nil)
          key, settings = Settings::Lists.add(show, "setlist", at: at)
          settings.merge!("setlist/#{key}/song" => song, "setlist/#{key}/title" => title)
          Settings::Edit.set("Add #{title} to the running order", settings.merge(new_roles(show, roles)))
        end

        # @return [Settings::Edit, nil] adds the missing roles; nil if the show has them all
        def roles(show, roles)
          settings = new_roles(show, roles)
          settings.empty? ? nil : Settings::Edit.set("Roles of the library", settings)
        end

        private

        def new_roles(show, roles)
          known = show.roles.values.map(&:name)
          added = roles.reject { |role| known.include?(role["name"]) }.uniq { |role| role["name"] }
          return {} if added.empty?

          keys = show.roles.keys
          numbered = added.each.with_index(keys.max.to_i + 1).to_h { |role, key| [key, role] }
          settings = { "role/order" => keys + numbered.keys }
          numbered.each { |key, role| %w[name kind outputs].each { |field| settings["role/#{key}/#{field}"] = role[field] if role[field] } }
          settings
        end
      end
    end
  end
end
