# frozen_string_literal: true

module Loomshuttle
  module Patch
    # One setting's change; `from` is what it was.
    Change = Value.define(:path, :from, :to)

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
        changed = Ordering.sort(settings).reduce(show) { |now, (path, value)| now.put(path, value) }
        changes = settings.keys.filter_map do |path|
          from, to = show.get(path), changed.get(path)
          Change.new(path: path, from: from, to: to) unless from == to
        end
        [changed, changes]
      end
    end
  end
end
