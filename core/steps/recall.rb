# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Recalls saved parts of a patch (Settings::PresetParts) into a show.
    module Recall
      # Saved settings as they can be set now: on another desk with everything that has to make room, on the
      # same desk with what moves along.
      # @param settings [Hash{String=>Object}]
      # @return [Array(Hash, Array<String>)] settings that can be set, and the paths that the rig lacks
      # @raise [Invalid] if this computer has no profile of the saved desk
      def self.settings(show, settings)
        desk = settings["rig/desk"]
        refit = desk && desk != show.rig.desk ? Settings::Refit.settings(show, desk) : {}
        after = refit.empty? ? show : Settings::Edit.set("", refit).apply(show).first
        known = after.settings
        fits, lacks = settings.partition { |path, _| known.key?(path) }
        fits = emptied(after, fits.to_h)
        [refit.empty? ? Completed.settings(show, fits) : refit.merge(fits), lacks.map(&:first)]
      end

      # A track that changes between mono and stereo gives up the lanes that are not part of the saved settings.
      def self.emptied(show, settings)
        lanes = settings.keys.grep(%r{/stereo\z}).flat_map do |path|
          base = path.delete_suffix("stereo")
          %w[inputs outputs].map { |field| "#{base}#{field}" } unless show.get(path) == settings[path]
        end
        lanes.compact.reject { |path| settings.key?(path) }.to_h { |path| [path, []] }.merge(settings)
      end
      private_class_method :emptied
    end
  end
end
