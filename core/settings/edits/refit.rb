# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Another desk for the same show. Nothing is dropped silently: settings that the new desk lacks must be cleared in the same edit, and `settings`
    # lists them.
    module Refit
      # @param show [Show]
      # @param desk [String] id of the new desk's profile
      # @return [Show]
      # @raise [Invalid] if something is still set that the new desk lacks
      def self.to(show, desk)
        fresh = fresh(show, desk)
        kept, lost = carry(show, fresh)
        return kept if lost.empty?

        raise Invalid.new("#{fresh.profile.name} has no place for #{lost.size} settings, #{lost.keys.first} first; empty them in the same edit.", where: lost.keys.first)
      end

      # @return [Hash{String=>Object}] settings that change the desk, empty what it lacks, and keep its blocks together
      def self.settings(show, desk)
        blank = show.blank_settings
        kept, lost = carry(show, fresh(show, desk))
        lost.to_h { |path, _| [path, blank[path]] }.merge(Limits.mend(kept), "rig/desk" => desk)
      end

      class << self
        private

        # The new desk with the old boxes.
        def fresh(show, desk)
          blank = Show.blank(show.catalog, show.about, desk: desk)
          boxes = show.boxes.transform_values { |box| blank.profile.ports.include?(box.port) ? box : box.with(port: nil) }.freeze
          blank.with(boxes: boxes, layout: Rig::Layout.new(blank.profile, boxes, show.catalog, blank.rate))
        end

        # @return [Array(Show, Hash)] the new show with all that fits, and settings that do not
        def carry(show, fresh)
          set = show.set_settings.except("rig/desk")
          lost = {}
          kept = Ordering.sort(set).reduce(fresh) do |now, (path, value)|
            now.put(path, value)
          rescue Invalid
            lost[path] = value
            now
          end
          [kept, lost]
        end
      end
    end
  end
end
