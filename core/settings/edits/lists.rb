# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Edits of lists that people extend. The order of a list ("listener/order") says which items exist. An item comes with its place in the order
    # and leaves with its settings, so the inverse of any edit restores everything.
    module Lists
      class << self
        # @param settings [Hash{String=>Object}] of an edit
        # @return [Hash{String=>Object}] initial values for every setting of the items being removed that has another value
        def leaving(show, settings)
          orders(settings).each_with_object({}) do |(collection, keys), more|
            (show.group(collection).keys - keys).each do |key|
              blank = collection.blank_settings(show.profile, key)
              more.merge!(blank.reject { |path, value| show.get(path) == value })
            end
          end
        end

        # Adds items before their settings are set, and removes them afterwards.
        # @yieldparam rest [Hash{String=>Object}] settings other than the order of a list
        # @yieldreturn [Array<Array(String, Object)>] path and value, in an order in which each step is valid
        # @return [Array<Array(String, Object)>]
        def steps(show, settings)
          orders = orders(settings)
          wide = orders.to_h { |collection, keys| [collection.order, show.group(collection).keys | keys] }
          wide.to_a + yield(settings.except(*wide.keys)) + orders.map { |collection, keys| [collection.order, keys] }
        end

        # @param name [String] of a list   @param at [Integer, nil] place, from 0; nil: the end
        # @return [Array(Integer, Hash)] the new item's key, and the setting that adds it
        def add(show, name, at: nil)
          keys = show.group(Settings.collection(name)).keys
          key = keys.max.to_i + 1
          [key, { Settings.collection(name).order => keys.dup.insert(at || keys.size, key) }]
        end

        private

        # What is not a list of numbers is left to be refused by its rule.
        def orders(settings)
          Settings.collections.select(&:list?).filter_map { |collection| [collection, settings[collection.order]] if settings[collection.order].is_a?(Array) }.to_h
        end
      end
    end
  end
end
