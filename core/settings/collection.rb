# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Items of one kind with their settings: a single item (the rig), as many as the desk has (channels), or an ordered list that people extend
    # (:list). It is declared once, beside its item; shows, edits, the store and the schemas read it.
    class Collection
      # Items of a list.
      MOST = 1000

      # @return [String] first word of its paths
      attr_reader :name
      # @return [Symbol] what a show calls it
      attr_reader :group
      # @return [Symbol] the field of an item that holds its key
      attr_reader :key
      # @return [Hash{Symbol=>Setting}] by field, in order
      attr_reader :settings
      # @return [Class] of the collection's items
      attr_reader :item

      # @param sort [:one, :desk, :list]
      # @param keys [Proc, nil] called with the desk, returns the keys of all items   @param key_pattern [String] regular expression for a key in a path
      # @param words [Proc] called with show and key, returns the item's name for people
      # @param list [String, nil] the list's name for people; nil for that of its group   @param rig [Boolean] whether the layout of the rig depends on it
      def initialize(name, group, sort, key: nil, keys: nil, key_pattern: "[1-9][0-9]*", words: nil, list: nil, rig: false)
        @name, @group, @sort, @key, @keys, @key_pattern, @words, @rig = name, group, sort, key, keys, key_pattern, words, rig
        @list = list || group.to_s.tr("_", " ")
        @settings = {}
      end

      # Declares a setting; see Setting.
      def setting(field, kind, blank:, words: field.to_s.tr("_", " "), unit: nil, nothing: "none", part: nil, capture: nil, desk: nil, on: nil)
        @settings[field] = Setting.new(field: field, kind: kind, blank: blank, words: words, unit: unit, nothing: nothing, part: part, capture: capture, desk: desk, on: on)
      end

      # Makes the class of its items, after all settings were declared.
      # @return [Class] a Value
      def close
        @item = Value.define(*[@key].compact, *@settings.keys, memo: true)
        collection = self
        @item.define_singleton_method(:collection) { collection }
        @item
      end

      def one? = @sort == :one
      def list? = @sort == :list
      def rig? = @rig
      # Whether keys are numbers.
      def numbered? = @key_pattern.start_with?("[1-9]")

      # @param key [Integer, String, nil]
      # @return [Object] an item with initial values
      def blank_item(desk, key = nil)
        @item.new(**(@key ? { @key => key } : {}), **@settings.transform_values { |setting| setting.blank_for(desk, key) })
      end

      # @return [Object, Hash] the item, or all initial items by key
      def blank(desk)
        return blank_item(desk) if one?

        (list? ? [] : @keys.call(desk)).to_h { |key| [key, blank_item(desk, key)] }.freeze
      end

      # @return [Boolean] whether a desk can have an item with this key
      def could_have?(key, desk) = one? || (list? ? key.is_a?(Integer) : @keys.call(desk).include?(key))

      # @param text [String] as written in a path
      # @return [Integer, String, nil] nil if it is not a key
      def read_key(text) = numbered? ? (text.to_i if text.to_i.to_s == text) : text

      # @return [String] e.g. "channel/7/gain"
      def path(key, field) = one? ? "#{@name}/#{field}" : "#{@name}/#{key}/#{field}"

      # @return [Hash{String=>Object}] initial settings of an item, by path
      def blank_settings(desk, key = nil) = @settings.to_h { |field, setting| [path(key, field), setting.blank_for(desk, key)] }

      # @return [String] path of a list's order
      def order = "#{@name}/order"

      # @return [String] a regular expression for the paths of a setting
      def pattern(field) = one? ? "^#{@name}/#{field}$" : "^#{@name}/#{@key_pattern}/#{field}$"

      # @return [String] the list's name for people
      def words_of_list = @list

      # @return [String] an item's name for people, such as "Channel 4 Fiddle"
      def told(show, key) = @words.call(show, key)

      # @return [Array<Integer>] the keys, if they are valid
      # @raise [Refusal]
      def keep_order(value)
        fits = value.is_a?(Array) && value.size <= MOST && value.uniq.size == value.size && value.all? { |key| key.is_a?(Integer) && key.between?(1, 99_999) }
        fits ? value.freeze : Kinds.refuse("the order is a list of different numbers, #{MOST} at most")
      end

      # @param items [Hash] of a list   @param keys [Array<Integer>] in their new order; new ones get initial values
      # @return [Hash]
      def ordered(items, keys, desk) = keys.to_h { |key| [key, items[key] || blank_item(desk, key)] }.freeze

      # @param group [Object, Hash] of a show
      # @yieldparam key [Integer, String, nil]   @yieldparam item [Object]
      def each_item(group, &)
        one? ? yield(nil, group) : group.each(&)
      end
    end
  end
end
