# frozen_string_literal: true

module Loomshuttle
  module Settings
    # A change of settings as a value: a label for people and the settings it sets, in order.
    # Applying it yields the new show and what really changed; that list makes the inverse.
    Edit = Value.define(:label, :settings) do
      # @param label [String] what it does, in words
      # @param settings [Hash{String=>Object}] path => value
      def self.set(label, settings) = new(label: label, settings: settings.freeze)

      # @param changes [Array<Change>] as applied
      # @return [Edit] that puts all of them back, last one first
      def self.inverse(label, changes)
        set(label, changes.reverse.to_h { |change| [change.path, change.from] })
      end

      # @param show [Show]
      # @return [Array(Show, Array<Change>)] settings that already had their value are not in the list
      # @raise [Invalid] when one does not fit; nothing is applied then
      def apply(show)
        changed = steps(show).reduce(show) { |now, (path, value)| now.put(path, value) }
        Limits.check(changed)
        [changed, changes(show, changed)]
      end

      private

      # Another desk has other settings: what it has no place for is emptied while the old one is there, and everything
      # else is set when the new one is.
      def steps(show)
        return Ordering.sort(settings) if !settings.key?("rig/desk") || settings["rig/desk"] == show.rig.desk

        show.catalog.fetch("desk", settings["rig/desk"], where: "rig/desk")
        blank = Show.blank(show.catalog, show.about, desk: show.rig.desk).settings
        gone, after = settings.except("rig/desk").partition { |path, value| blank.key?(path) && blank[path] == value }.map(&:to_h)
        lost = Refit.settings(show, settings["rig/desk"]).slice(*after.keys)
        Ordering.sort(gone.merge(lost)) + [["rig/desk", settings["rig/desk"]]] + Ordering.sort(after)
      end

      def changes(show, changed)
        same_desk = show.rig.desk == changed.rig.desk
        old, new = same_desk ? [nil, nil] : [with_blank(show, changed), with_blank(changed, show)]
        settings.keys.filter_map do |path|
          from, to = same_desk ? [show.get(path), changed.get(path)] : [old[path], new[path]]
          Change.new(path: path, from: from, to: to) unless from == to
        end
      end

      # A show's settings, and those that only the other one has, blank.
      def with_blank(show, other) = Show.blank(other.catalog, other.about, desk: other.rig.desk).settings.merge(show.settings)
    end
  end
end
