# frozen_string_literal: true

module Loomshuttle
  module Settings
    # A change of settings as a value: a label for people, and settings in order. Applying it gives the new show and the list of real changes, from
    # which the inverse is made.
    Edit = Value.define(:label, :settings) do
      # @param label [String] what the edit does, in words
      # @param settings [Hash{String=>Object}] path => value
      def self.set(label, settings) = new(label: label, settings: settings.freeze)

      # @param changes [Array<Change>] as applied
      # @return [Edit] undoes them, last one first; settings that no longer exist are skipped
      def self.inverse(label, changes)
        set(label, Retired.out_of(changes.reverse.to_h { |change| [change.path, change.from] }))
      end

      # @param show [Show]
      # @param kept [Boolean] true when stored settings are loaded: nothing else is set with them
      # @return [Array(Show, Array<Change>)] the new show, and what really changed
      # @raise [Invalid] if a value does not fit; nothing is applied
      def apply(show, kept: false)
        whole = Lists.leaving(show, settings).merge(settings)
        changed = steps(show, whole).reduce(show) { |now, (path, value)| now.put(path, value) }
        along = kept ? {} : SharedPreamp.along(show, changed, whole)
        changed = along.reduce(changed) { |now, (path, value)| now.put(path, value) }
        Limits.check(changed)
        [changed, changes(show, changed, [*whole.keys, *along.keys])]
      end

      private

      # Another desk has other settings: what it has no place for is emptied while the old one is there, and everything
      # else is set when the new one is.
      def steps(show, whole)
        return Lists.steps(show, whole) { |rest| Ordering.sort(rest) } if !whole.key?("rig/desk") || whole["rig/desk"] == show.rig.desk

        show.catalog.fetch("desk", whole["rig/desk"], where: "rig/desk")
        blank = show.blank_settings
        gone, after = whole.except("rig/desk").partition { |path, value| blank.key?(path) && blank[path] == value }.map(&:to_h)
        lost = Refit.settings(show, whole["rig/desk"]).slice(*after.keys)
        Lists.steps(show, gone.merge(lost)) { |rest| Ordering.sort(rest) } + [["rig/desk", whole["rig/desk"]]] + Lists.steps(show, after) { |rest| Ordering.sort(rest) }
      end

      # What only one of the two has is blank in the other.
      def changes(show, changed, paths)
        paths.filter_map do |path|
          from, to = value(path, show, changed), value(path, changed, show)
          Change.new(path: path, from: from, to: to) unless from == to
        end
      end

      def value(path, show, other) = show.fetch(path) { Settings.blank(path, other.profile) }
    end
  end
end
