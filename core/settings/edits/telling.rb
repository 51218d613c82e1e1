# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Settings and their values in words, for previews, comparisons and the journal.
    module Telling
      # One change for a person: what (the item and its name), field, and both values in words.
      Told = Value.define(:path, :what, :field, :from, :to)

      # @param show [Show] before or after the change; it provides the names
      # @return [Told]
      def self.change(show, path, from, to)
        collection, key, setting = Settings.find(path)
        return unknown(path, from, to) unless collection
        return Told.new(path: path, what: "Show", field: collection.words_of_list, from: order(show, collection, from), to: order(show, collection, to)) unless setting

        Told.new(path: path, what: collection.told(show, key), field: setting.words, from: value(show, setting, from), to: value(show, setting, to))
      end

      # @param show [Show]
      # @return [String] a setting in words, such as "Channel 4 Fiddle, preamp gain"
      def self.setting(show, path)
        collection, key, setting = find(path)
        setting ? "#{collection.told(show, key)}, #{setting.words}" : "Show, #{collection.words_of_list}"
      end

      # @param settings [Hash{String=>Object}] of an edit without a label
      # @return [String] what the edit is about
      # @raise [Invalid] if the show has no such setting
      def self.label(show, settings)
        first, *more = settings.keys
        return "Nothing" unless first

        Path.parse(show, first)

        more.empty? ? setting(show, first) : "#{setting(show, first)} and #{more.size} more"
      end

      # @param changes [Array<Change>]
      # @return [String] what an edit did, for screen readers: the change, or the first of several and their number
      def self.summary(show, changes)
        first, *more = changes
        return "Nothing changed." unless first

        line = line(change(show, first.path, first.from, first.to))
        more.empty? ? line : "#{changes.size} settings changed, first #{line}"
      end

      # @return [String] the change in one line
      def self.line(told) = "#{told.what}: #{told.field} #{told.from} → #{told.to}"

      class << self
        private

        def find(path)
          Settings.find(path) or raise Invalid.new("There is no setting \"#{Text.readable(path, most: 80)}\".", where: Text.readable(path, most: 80))
        end

        # A journal may be older, or newer, than this version.
        def unknown(path, from, to)
          *what, field = path.split("/")
          from, to = [from, to].map { |value| value.nil? ? "none" : Text.readable(value.to_s, most: 200) }
          Told.new(path: path, what: what.join(" ").capitalize, field: field.to_s.tr("_", " "), from: from, to: to)
        end

        def order(show, collection, keys)
          keys.to_a.empty? ? "none" : keys.map { |key| collection.told(show, key) }.join(", ")
        end

        def value(show, setting, value)
          case value
          when nil, "", [] then setting.nothing
          when true then "yes"
          when false then "no"
          when Array then Text.list(value.map { |one| member(show, setting.kind.sort, one) })
          when Hash then value.empty? ? "none" : value.keys.join(", ")
          when Numeric then [value.to_s.sub("-", "−"), setting.unit].compact.join(" ")
          else text(show, setting.kind.sort, value)
          end
        end

        # One of several.
        def member(show, sort, value)
          case sort
          when :sources then source(show, *value.split("/"))
          when :listeners then show.listeners[value]&.title || "Listener #{value}"
          when :outlets then Rig::Point.read(value)&.then { |point| show.label(point) } || value
          else value.to_s
          end
        end

        def source(show, kind, number)
          kind == "channel" ? show.channels[number.to_i]&.title || "Channel #{number}" : "Card return #{number}"
        end

        def text(show, sort, value)
          case sort
          when :tap then Rig::Label::TAPS.fetch(value, value)
          when :device then show.catalog.all.find { |profile| profile.id == value }&.name || value
          when :point then Rig::Point.read(value)&.then { |point| show.layout.words(point) } || value
          when :song then "from the library"
          else value
          end
        end
      end
    end
  end
end
