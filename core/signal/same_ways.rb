# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Whether sound goes the same ways in two shows, so that what was derived from the one holds for the other: they differ by names and dyes,
    # by what is armed, and by nothing else. Most edits are such.
    module SameWays
      # @param before [Settings::Show]   @param after [Settings::Show]
      # @return [Boolean] false where there is any doubt
      def self.in?(before, after)
        before.profile.equal?(after.profile) && before.catalog.equal?(after.catalog) && Settings.collections.all? do |collection|
          old, now = before.group(collection), after.group(collection)
          old.equal?(now) || same_items?(collection, old, now)
        end
      end

      def self.same_items?(collection, old, now)
        return old == now if collection.one?

        loud = collection.settings.values.reject { |setting| quiet?(setting) }.map(&:field)
        old.keys == now.keys && old.all? { |key, item| item.equal?(now[key]) || same_item?(item, now[key], loud) }
      end

      def self.same_item?(old, now, loud)
        loud.all? { |field| old[field] == now[field] } && (!old.respond_to?(:used?) || old.used? == now.used?) # a name alone makes a strand of a channel
      end

      def self.quiet?(setting) = setting.part == "names" || setting.field == :armed
      private_class_method :same_items?, :same_item?, :quiet?
    end
  end
end
