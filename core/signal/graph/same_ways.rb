# frozen_string_literal: true

module Loomshuttle
  module Signal
    # Whether two shows differ only in names, dyes and arms. Then the signal paths of one are valid for the other. Most edits are of this kind.
    module SameWays
      # @param before [Settings::Show]   @param after [Settings::Show]
      # @return [Boolean] whether both have the same signal paths; false when in doubt
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
        loud.all? { |field| old[field] == now[field] } && (!old.respond_to?(:used?) || old.used? == now.used?) # a channel with nothing but a name has a strand
      end

      def self.quiet?(setting) = setting.part == "names" || setting.field == :armed
      private_class_method :same_items?, :same_item?, :quiet?
    end
  end
end
