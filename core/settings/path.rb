# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Resolves a setting's path in a show: the collection, the item's key (nil for a single item), the item, and the setting. The path of a list's
    # order has no item.
    Path = Value.define(:name, :show, :collection, :key, :item, :setting) do
      class << self
        # @raise [Invalid] if the show has no such setting
        def parse(show, name)
          name = name.to_s
          kind, *rest = name.split("/", -1)
          collection = Settings.collection(kind) or no_such(name, "settings start with #{Settings.collections.map(&:name).join(', ')}")
          return build(name, show, collection, nil, show.group(collection), rest.join("/")) if collection.one?
          return new(name: name, show: show, collection: collection, key: nil, item: nil, setting: nil) if collection.list? && name == collection.order

          # A setting has one path: "channel/01/name" would be another one of the same.
          key = collection.read_key(rest.first.to_s)
          item = show.group(collection)[key] or no_such(name, "this show has no #{kind} #{rest.first}")
          build(name, show, collection, key, item, rest.drop(1).join("/"))
        end

        private

        def build(name, show, collection, key, item, field)
          setting = collection.settings[field.to_sym] or no_such(name, "known here: #{collection.settings.keys.join(', ')}")
          new(name: name, show: show, collection: collection, key: key, item: item, setting: setting)
        end

        def no_such(name, why) = raise(Invalid.new("There is no setting \"#{Text.readable(name, most: 80)}\": #{Text.readable(why)}.", where: Text.readable(name, most: 80)))
      end

      # @return [Boolean] whether it is the order of a list
      def order? = setting.nil?

      # @return [Object] the setting's value
      def value = order? ? show.group(collection).keys : setting.plain(item)

      # @return [Object] the value to store, frozen
      # @raise [Invalid] names the setting in words, with its path as `where`
      def keep(value)
        order? ? collection.keep_order(value) : setting.kind.keep(value, self)
      rescue Refusal => e
        raise Invalid.new("#{Telling.setting(show, name)}: #{e.message}.", where: name)
      end
    end
  end
end
